import type { OwnRamp } from '@/core/colour/ramp'
import type { Colour } from '@/core/scene/paint'
import type { NamedTypeStyle } from '@/core/sheet/type-style'
import { paletteOf } from './palette'
import type { Folio } from './schema'

/** What makes sheets of several folios look alike: named type styles, colours, and ramps of one's own. */
export type Looks = { typeStyles: NamedTypeStyle[]; colours: Colour[]; ramps: OwnRamp[] }

/** At most so many colours are kept in a folio. */
export const mostKeptColours = 64

export const looksOf = (folio: Folio): Looks => ({
  typeStyles: folio.typeStyles,
  colours: paletteOf(folio),
  ramps: folio.ramps,
})

/** What was brought in, by how many. */
export type Brought = { changed: number; added: number; colours: number; ramps: number; leftOut: number }

/**
 * A folio's looks with others brought in. A type style that it has already, by its id or else by its name, becomes what
 * the other is; colours and ramps are added to those that are there, the new ones first. `leftOut` are colours for
 * which there is no room.
 */
export function withLooks(
  folio: Pick<Folio, 'typeStyles' | 'palette' | 'ramps'>,
  looks: Looks,
): { looks: Pick<Folio, 'typeStyles' | 'palette' | 'ramps'>; brought: Brought } {
  const typeStyles = [...folio.typeStyles]
  let [changed, added] = [0, 0]
  for (const one of looks.typeStyles) {
    const byId = typeStyles.findIndex(({ id }) => id === one.id)
    const at = byId >= 0 ? byId : typeStyles.findIndex(({ name }) => name === one.name)
    if (at < 0) {
      typeStyles.push(one)
      added++
    } else if (JSON.stringify(typeStyles[at]) !== JSON.stringify({ ...one, id: typeStyles[at].id })) {
      // Its own id stays: that is what texts follow.
      typeStyles[at] = { ...one, id: typeStyles[at].id }
      changed++
    }
  }
  const lower = (colours: readonly Colour[]): Colour[] => colours.map((colour) => colour.toLowerCase())
  const had = new Set(lower(folio.palette))
  const fresh = [...new Set(lower(looks.colours))].filter((colour) => !had.has(colour))
  const palette = [...fresh, ...folio.palette]
  const rampIds = new Set(folio.ramps.map(({ id }) => id))
  const ramps = looks.ramps.filter(({ id }) => !rampIds.has(id))
  return {
    looks: { typeStyles, palette: palette.slice(0, mostKeptColours), ramps: [...folio.ramps, ...ramps] },
    brought: {
      changed,
      added,
      colours: fresh.length,
      ramps: ramps.length,
      leftOut: Math.max(0, palette.length - mostKeptColours),
    },
  }
}

/** What was brought in, in words. */
export function broughtWords({ changed, added, colours, ramps, leftOut }: Brought): string {
  const some = (n: number, one: string, many = `${one}s`): string[] =>
    n ? [`${n} ${n === 1 ? one : many}`] : []
  const list = [
    ...some(changed, 'type style was changed', 'type styles were changed'),
    ...some(added, 'type style was added', 'type styles were added'),
    ...some(colours, 'colour was added', 'colours were added'),
    ...some(ramps, 'ramp was added', 'ramps were added'),
    ...some(leftOut, 'older colour had to make way', 'older colours had to make way'),
  ]
  return list.length ? `${list.join(', ')}.` : 'Nothing in it was new.'
}
