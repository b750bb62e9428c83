/**
 * What a page may do (Content Security Policy, level 3): scripts run that are files of the application or carry
 * the nonce of this answer; nothing is fetched from elsewhere, nothing may frame it. Styles stand in attributes
 * all over the interface, so those are let through; style elements need the nonce.
 */
export const pagePolicy = (nonce: string, isDeveloping: boolean): string =>
  [
    `default-src 'none'`,
    `script-src 'self' 'nonce-${nonce}'${isDeveloping ? ` 'unsafe-eval'` : ''}`,
    isDeveloping ? `style-src 'self' 'unsafe-inline'` : `style-src 'self' 'nonce-${nonce}'`,
    `style-src-attr 'unsafe-inline'`,
    `img-src 'self' blob: data:`,
    `font-src 'self' data:`,
    `connect-src 'self'`,
    `worker-src 'self'`,
    `manifest-src 'self'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ')

/** What a worker may do, whose script is a file of the application. */
export const scriptPolicy = `default-src 'none'; script-src 'self'; connect-src 'self'; font-src 'self' data:; img-src 'self' blob: data:; frame-ancestors 'none'`

/** Answers that are data: nothing in them is ever run or shown as a page. */
export const dataPolicy = `default-src 'none'; frame-ancestors 'none'; sandbox`

/** Senses and devices that the application never asks for. */
export const permissions = [
  'accelerometer',
  'autoplay',
  'bluetooth',
  'browsing-topics',
  'camera',
  'display-capture',
  'encrypted-media',
  'geolocation',
  'gyroscope',
  'hid',
  'magnetometer',
  'microphone',
  'midi',
  'payment',
  'publickey-credentials-get',
  'screen-wake-lock',
  'serial',
  'usb',
  'xr-spatial-tracking',
]
  .map((name) => `${name}=()`)
  .join(', ')
