import { formatNumber } from '@/core/classify/labels'
import { singularUnit } from '@/core/data/field-meta'
import { solid, stroke } from '@/core/scene/paint'
import { polygon } from '@/core/scene/outline'
import { path } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { choroplethLegend, choroplethLines } from '../choropleth/legend'
import type { KindData, LegendEntry, LegendLines, LegendView } from '../kind'
import type { BlocksPlan } from './plan'
import type { BlocksSettings } from './spec'

/** The value of a block as a number; small ones with as many decimals as they need. */
export const valueWords = (value: number): string =>
  formatNumber(value, value < 1 ? Math.min(12, 2 - Math.floor(Math.log10(value))) : Number(value % 1 !== 0))
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '')

/** “5,000 persons”, the value of a block in words. */
export function worthWords({ size, value }: Pick<BlocksSettings, 'size' | 'value'>, data: KindData): string {
  const { unit, label, role } = data.fieldMeta(size)
  const number = valueWords(value)
  return `${number} ${value === 1 ? singularUnit({ label, unit, role }) : unit || label.toLowerCase()}`.trim()
}

/** Classes, or parts, and one block as large as it is in the panel. */
export function blocksLegend(
  plan: BlocksPlan,
  settings: BlocksSettings,
  data: KindData,
  view: LegendView | null,
): LegendEntry {
  const shaded: LegendEntry = settings.parts.length
    ? {
        heading: data.fieldMeta(settings.size).label,
        items: settings.parts.map(({ field, colour }, i) => ({
          key: `part-${i}`,
          label: data.fieldMeta(field).label,
          swatch: { shape: 'box', fill: solid(colour), stroke: null },
        })),
      }
    : choroplethLegend(plan, settings, data)
  return { ...shaded, items: [...shaded.items, blockItem(settings, data, view)] }
}

/** The line about a block needs a little room as well, mm. */
const edgeRoomMm = 0.4

/** Without a panel a block is so wide, mm. */
const plainMm = 3

function blockItem(
  settings: BlocksSettings,
  data: KindData,
  view: LegendView | null,
): LegendEntry['items'][number] {
  const sideMm = view ? settings.sideM * view.mmPerMetre : plainMm
  const corners = settings.shape === 'squares' ? 4 : 6
  const reach = sideMm / (settings.shape === 'squares' ? Math.SQRT2 : Math.sqrt(3))
  const { outline } = settings
  const edge = outline.coastColour.toLowerCase() === '#ffffff' ? '#7a8388' : outline.coastColour
  return {
    key: 'block',
    apart: true,
    label: `1 block: ${worthWords(settings, data)}`,
    swatch: {
      shape: 'sample',
      fill: null,
      stroke: null,
      roomMm: { width: sideMm + edgeRoomMm, height: 2 * reach + edgeRoomMm },
      sample: ({ width, height }) => {
        const ring = Array.from({ length: corners }, (_, k): [number, number] => {
          const angle = (2 * Math.PI * (k - 0.5)) / corners
          return [width / 2 + reach * Math.cos(angle), height / 2 + reach * Math.sin(angle)]
        })
        return [path(polygon(ring.flat()), { strokes: [stroke(edge, pointsToMm(0.4))] })]
      },
    },
  }
}

export const blocksLines = (plan: BlocksPlan, settings: BlocksSettings): LegendLines | null =>
  settings.parts.length ? null : choroplethLines(plan, settings)
