import { formatNumber } from '@/core/classify/labels'
import { solid, stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { lowerFirst } from '../values'
import type { KindData, LegendEntry, LegendItem, LegendView } from '../kind'
import { placeDots } from './place'
import type { DotPlan } from './plan'
import { randomFrom } from '@/core/grid/random'
import type { DotSettings } from './spec'

/** A number as it is written: whole ones without decimals. */
export const eachWords = (each: number): string =>
  formatNumber(each, Number.isInteger(each) ? 0 : Math.max(0, 2 - Math.floor(Math.log10(each))))

/** What dots of some fields stand for: the unit that all of them have, else what they are called. */
export function ofWhat(fields: DotSettings['fields'], fieldMeta: KindData['fieldMeta']): string {
  const units = new Set(fields.map(({ field }) => fieldMeta(field).unit))
  const [unit] = units
  if (units.size === 1 && unit) return unit
  return fields.length === 1 ? lowerFirst(fieldMeta(fields[0].field).label) : ''
}

/** What one dot stands for, each field where there are several, and samples of the map at its scale. */
export function dotLegend(
  { densities }: DotPlan,
  settings: DotSettings,
  { fieldMeta }: KindData,
  view: LegendView | null,
): LegendEntry {
  const { fields, each, sizeMm } = settings
  const one = fields.length === 1
  const worth = `one dot for ${eachWords(each)} ${ofWhat(fields, fieldMeta)}`.trim()
  const swatch = (colour: string): LegendItem['swatch'] => ({
    shape: 'dot',
    fill: solid(colour),
    stroke: null,
    // Colours are told apart by larger dots than those on the map.
    sizeMm: Math.max(sizeMm, one ? 0.6 : 1.6),
  })
  return {
    heading: one ? fieldMeta(fields[0].field).label : `${worth.charAt(0).toUpperCase()}${worth.slice(1)}`,
    items: [
      ...fields.map(({ field, colour }) => ({
        key: `dots-${field}`,
        label: one ? worth : fieldMeta(field).label,
        swatch: swatch(colour),
      })),
      ...(densities && view ? samples(settings, densities, { view, what: ofWhat(fields, fieldMeta) }) : []),
    ],
  }
}

/** Squares of the map with few, some and many dots, placed as on the map and as large as there. */
function samples(
  settings: DotSettings,
  densities: NonNullable<DotPlan['densities']>,
  { view, what }: { view: LegendView; what: string },
): LegendItem[] {
  return ([densities.low, densities.middle, densities.high] as const).map((perKm2, i) => {
    const worth = perKm2 * settings.each
    const written = formatNumber(
      worth,
      worth >= 100 ? 0 : Math.min(4, Math.max(0, 1 - Math.floor(Math.log10(worth)))),
    )
    return {
      key: `sample-${i}`,
      apart: i === 0,
      label: `${written} ${what} per km²`.replace('  ', ' '),
      swatch: {
        shape: 'sample',
        fill: null,
        stroke: stroke('#9a9a9a', 0.1),
        sample: (box) => sampleOf(box, perKm2 * (view.scaleDenominator / 1e6) ** 2, settings),
      },
    }
  })
}

/** Dots as dense as on the map, in a box of paper. */
function sampleOf(
  { width, height }: { width: number; height: number },
  perMm2: number,
  { fields, sizeMm, seed }: DotSettings,
): Node[] {
  const count = Math.round(perMm2 * width * height)
  // At the equator a degree is as wide as it is high, near enough for a square of paper.
  const ring = [
    [0, 0],
    [width / 1000, 0],
    [width / 1000, height / 1000],
    [0, height / 1000],
    [0, 0],
  ]
  const { lonLat } = placeDots([[ring]], Math.min(count, 5000), { random: randomFrom(seed) })
  const place = { scale: 1000, dx: 0, dy: 0 }
  return fields.map(({ colour }, i) => {
    const own = lonLat.filter((_, at) => Math.floor(at / 2) % fields.length === i)
    return path({ kind: 'dots', coords: own, r: sizeMm / 2, place }, { fill: solid(colour) })
  })
}
