import type { Colour } from '@/core/scene/paint'
import type { Folio } from './schema'

/** The colours that maps and sheets of a folio are made of, the commonest first, at most `most` of them. */
export function paletteOf(
  { maps, ramps, sheets }: Pick<Folio, 'maps' | 'ramps' | 'sheets'>,
  most = 32,
): Colour[] {
  const counts = new Map<Colour, number>()
  for (const [colour] of JSON.stringify([maps, ramps, sheets]).matchAll(/(?<=")#[0-9a-f]{6}(?=")/gi))
    counts.set(colour.toLowerCase(), (counts.get(colour.toLowerCase()) ?? 0) + 1)
  return [...counts]
    .sort(([a, one], [b, two]) => two - one || (a < b ? -1 : 1))
    .slice(0, most)
    .map(([colour]) => colour)
}
