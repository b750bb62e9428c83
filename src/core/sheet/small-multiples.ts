import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { Layer } from '@/core/map/spec'
import { cellsOf, type Division } from './arrange'
import type { PanelPart } from './panel-view'
import type { PanelVariant } from './parts/panel/spec'
import { variantWords } from './parts/panel/variant'

/** More small maps than this are none that can be read on a page. */
export const mostMultiples = 64

/** Every one of some layers by itself. */
export const layerVariants = (layers: readonly Pick<Layer, 'id'>[]): PanelVariant[] => {
  const among = layers.map(({ id }) => id)
  return among.map((layerId) => ({ by: 'layer', layerId, among }))
}

/** What a layer can be repeated over: the years of its series, or the values of a field. */
export function variantsOf(
  layer: Layer,
  datasets: Map<string, Prepared>,
  over: 'years' | { field: string },
): PanelVariant[] {
  const prepared = shownOf(layer, datasets)
  if (!prepared) return []
  const { kind, settings } = layer.symbology
  if (over === 'years') {
    const years = kindOf(kind).years?.of(settings, kindData(prepared))?.years ?? []
    return years.map(({ year }) => ({ by: 'year', layerId: layer.id, year }))
  }
  const column = fieldOf(prepared.dataset, over.field)
  if (!column) return []
  const values = new Set<string>()
  for (let row = 0; row < prepared.dataset.rowCount && values.size <= mostMultiples; row++) {
    const value = textAt(column, row)
    if (value !== null) values.add(value)
  }
  const sorted = [...values].sort()
  return sorted.map((value) => ({ by: 'value', layerId: layer.id, field: over.field, value }))
}

/** How many columns make cells of a box that are nearest to a small map's usual proportions. */
export function columnsFor(count: number, { width, height }: { width: number; height: number }): number {
  const usual = 1.2
  const skew = (columns: number) =>
    Math.abs(Math.log(width / columns / (height / Math.ceil(count / columns)) / usual))
  const all = Array.from({ length: count }, (_, i) => i + 1)
  return all.reduce((best, n) => (skew(n) < skew(best) ? n : best), 1)
}

type Repeated = {
  division: Division
  newId: () => string
  /** The layers of the map, and the data of the one that is repeated. */
  layers: readonly Layer[]
  prepared: Prepared | undefined
}

/**
 * A panel repeated over variants, in cells of its own box: all show its map at one scale and place, those of the first,
 * so that a change of the map or of the first panel's view changes all. `newId` hands out ids; the first keeps its own.
 */
export function smallMultiples(
  panel: PanelPart,
  variants: readonly PanelVariant[],
  { division, newId, prepared, layers }: Repeated,
): PanelPart[] {
  const cells = cellsOf(panel.box, division)
  const { view } = panel.settings
  const smaller = Math.max(panel.box.width / cells[0].width, panel.box.height / cells[0].height)
  const scaleDenominator = Math.ceil((view.scaleDenominator * smaller) / 50_000) * 50_000
  return variants.slice(0, cells.length).map((variant, i): PanelPart => ({
    ...panel,
    id: i === 0 ? panel.id : newId(),
    name: `${panel.name} ${variantWords(variant, { prepared, layer: layers.find(({ id }) => id === variant.layerId) })}`,
    box: cells[i],
    settings: {
      ...panel.settings,
      variant,
      captioned: true,
      view: { ...view, scaleDenominator },
      sameScaleAs: i === 0 ? panel.settings.sameScaleAs : panel.id,
      samePlaceAs: i === 0 ? panel.settings.samePlaceAs : panel.id,
      footprints: [],
    },
  }))
}
