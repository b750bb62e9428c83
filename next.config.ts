import type { NextConfig } from 'next'
import { permissions } from './src/server/door/policy'

const config: NextConfig = {
  serverExternalPackages: [
    'sequelize',
    'sqlite3',
    'umzug',
    'sharp',
    '@napi-rs/canvas',
    'pdfkit',
    'fontkit',
    'workerpool',
  ],
  poweredByHeader: false,
  devIndicators: false,
  reactStrictMode: true,
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'X-Frame-Options', value: 'DENY' },
        { key: 'Referrer-Policy', value: 'no-referrer' },
        { key: 'Permissions-Policy', value: permissions },
        { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
        { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
      ],
    },
  ],
}

export default config
