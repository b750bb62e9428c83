import { centres, type Land } from './land'
import type { Km } from './mesh'
import type { Terrain } from './terrain'

/** What the ground is covered with, by the numbers of the file, with the colours that it gives them. */
export const covers = {
  10: { name: 'Towns', colour: '#b5524a' },
  20: { name: 'Fields', colour: '#e8d48b' },
  30: { name: 'Meadows', colour: '#b8cf8a' },
  40: { name: 'Woods', colour: '#5f8f5a' },
  50: { name: 'Heath', colour: '#b79ab0' },
  60: { name: 'Bare rock', colour: '#b8b2a6' },
  70: { name: 'Marsh', colour: '#8fb8b0' },
} as const

/**
 * The cover of a place: towns where people live, rock and heath up high and on steep ground, woods on slopes, marsh in
 * flat low ground, fields and meadows elsewhere, all of it in patches.
 */
export function coverAt([x, y]: Km, { noise }: Land, { metres, steep }: Terrain): keyof typeof covers {
  const broad = noise(x / 17 + 60, y / 17)
  const fine = noise(x / 4.5, y / 4.5 + 80) + 0.5 * noise(x / 1.6 + 20, y / 1.6)
  const built = centres.some(
    ({ at, weight }) => Math.hypot(x - at[0], y - at[1]) < 2 + 8 * weight + (1 + 3 * weight) * fine,
  )
  if (built) return 10
  if (metres + 130 * fine > 950 || steep > 150) return 60
  if (metres + 120 * broad + 60 * fine > 640) return 50
  if (metres < 26 && steep < 3 && broad + 0.6 * fine > 0.85) return 70
  if (steep + 14 * broad + 10 * fine > 26) return 40
  return broad + 0.8 * fine + metres / 400 > 0.45 ? 30 : 20
}
