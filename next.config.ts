import type { NextConfig } from 'next'

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
      ],
    },
  ],
}

export default config
