import type { Metadata } from 'next'
import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/500.css'
import '@fontsource/ibm-plex-sans/600.css'
import '@fontsource/ibm-plex-sans-condensed/400.css'
import '@fontsource/ibm-plex-sans-condensed/600.css'
import '@fontsource/bitter/400.css'
import '@fontsource/bitter/600.css'
import './globals.css'

export const metadata: Metadata = {
  title: 'Keen Plot',
  description: 'Thematic cartography from statistical data to the printed page',
}

// Set before the first paint, so that a dark theme does not flash white.
const themeScript = `try{document.documentElement.dataset.theme=localStorage.getItem('keen-theme')||'daylight'}catch{}`

export default function RootLayout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en" data-theme="daylight" suppressHydrationWarning>
      <head>
        <script dangerouslySetInnerHTML={{ __html: themeScript }} />
      </head>
      <body>{children}</body>
    </html>
  )
}
