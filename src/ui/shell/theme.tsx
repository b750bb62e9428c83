'use client'
import { Lamp, Sun } from 'lucide-react'
import { useEffect, useState } from 'react'
import { IconButton } from '../kit/controls'

/** Daylight or Lamplight; kept in this browser. */
export function ThemeButton() {
  const [theme, setTheme] = useState('daylight')
  useEffect(() => setTheme(document.documentElement.dataset.theme ?? 'daylight'), [])
  const next = theme === 'daylight' ? 'lamplight' : 'daylight'
  return (
    <IconButton
      label={next === 'lamplight' ? 'Dark theme: Lamplight' : 'Light theme: Daylight'}
      onClick={() => {
        document.documentElement.dataset.theme = next
        localStorage.setItem('keen-theme', next)
        setTheme(next)
      }}
    >
      {next === 'lamplight' ? <Lamp size={16} /> : <Sun size={16} />}
    </IconButton>
  )
}
