import type { Metadata } from 'next'
import { headers } from 'next/headers'
import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/500.css'
import '@fontsource/ibm-plex-sans/600.css'
import '@fontsource/ibm-plex-sans-condensed/400.css'
import '@fontsource/ibm-plex-sans-condensed/600.css'
import '@fontsource/bitter/400.css'
import '@fontsource/bitter/600.css'
import { StyleNonce } from '@/ui/shell/style-nonce'
import './globals.css'

export const metadata: Metadata = {
  title: 'Keen Plot',
  description: 'Thematic cartography from statistical data to the printed page',
}

// Set before the first paint, so that a dark theme does not flash white.
const themeScript = `try{document.documentElement.dataset.theme=localStorage.getItem('keen-theme')||'daylight'}catch{}`

export default async function RootLayout({ children }: { children: React.ReactNode }) {
  // Only what carries the nonce of this answer is run; see `proxy.ts`.
  const nonce = (await headers()).get('x-nonce') ?? undefined
  return (
    <html lang="en" data-theme="daylight" suppressHydrationWarning>
      <head>
        <script nonce={nonce} dangerouslySetInnerHTML={{ __html: themeScript }} suppressHydrationWarning />
      </head>
      <body>
        <StyleNonce nonce={nonce} />
        {children}
      </body>
    </html>
  )
}
