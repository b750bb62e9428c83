import type { Colour } from '@/core/scene/paint'
import type { Folio } from './schema'

/** The colours kept in a folio, then those that its maps and sheets are made of, the commonest first. */
export function paletteOf(
  { maps, ramps, sheets, palette }: Pick<Folio, 'maps' | 'ramps' | 'sheets' | 'palette'>,
  most = 32,
): Colour[] {
  const counts = new Map<Colour, number>()
  for (const [colour] of JSON.stringify([maps, ramps, sheets]).matchAll(/(?<=")#[0-9a-f]{6}(?=")/gi))
    counts.set(colour.toLowerCase(), (counts.get(colour.toLowerCase()) ?? 0) + 1)
  const used = [...counts]
    .sort(([a, one], [b, two]) => two - one || (a < b ? -1 : 1))
    .map(([colour]) => colour)
  return [...new Set([...palette, ...used])].slice(0, Math.max(most, palette.length))
}
