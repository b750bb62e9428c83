import { formulaName } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'
import { kindOf, type Symbology } from '@/core/kinds/registry'
import { classesOf, kindData } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { Layer, MapSpec } from '@/core/map/spec'
import { createMemory, identity } from '@/core/memory/memory'
import type { PanelVariant } from './spec'

const remember = createMemory<MapSpec, MapSpec>('maps of small multiples', { maxBytes: 32 * 2 ** 20 })

/**
 * A map as one of several small ones shows it: the very same object for the same map, variant and rows. A variant of a
 * layer that is not there, or of a kind that cannot show it, leaves the map as it is.
 */
export function mapOfVariant(
  map: MapSpec,
  variant: PanelVariant | null,
  datasets: Map<string, Prepared>,
): MapSpec {
  const layer = variant && map.layers.find(({ id }) => id === variant.layerId)
  if (!variant || !layer) return map
  if (variant.by === 'layer') {
    const out = variant.among.filter((id) => id !== layer.id)
    return remember(map, identity(['layer', ...out]), () => ({
      ...map,
      layers: map.layers.filter(({ id }) => !out.includes(id)),
    }))
  }
  const prepared = shownOf(layer, datasets)
  if (!prepared) return map
  return remember(map, identity([...Object.values(variant), prepared.dataset]), () => ({
    ...map,
    layers: map.layers.map((one) => (one === layer ? layerOfVariant(layer, variant, prepared) : one)),
  }))
}

function layerOfVariant(
  layer: Layer,
  variant: Exclude<PanelVariant, { by: 'layer' }>,
  prepared: Prepared,
): Layer {
  const { kind, settings } = layer.symbology
  const { years, showField } = kindOf(kind)
  const withSettings = (next: unknown): Layer => ({
    ...layer,
    symbology: { kind, settings: next } as Symbology,
  })
  if (variant.by === 'year') {
    if (!years) return layer
    const data = kindData(prepared)
    return withSettings(years.to(years.together(settings, true), data, variant.year))
  }
  const classed = withClassesOf(layer, prepared)
  if (variant.by === 'field') return showField ? withSettings(showField(classed, variant.field)) : layer
  const only = `${formulaName(variant.field)} == ${JSON.stringify(variant.value)}`
  return { ...withSettings(classed), filter: layer.filter.trim() ? `(${layer.filter}) and ${only}` : only }
}

/** The settings of a layer with the breaks that it has now set by hand, so that fewer rows change none of them. */
function withClassesOf(layer: Layer, prepared: Prepared): unknown {
  const { settings } = layer.symbology
  const classes = classesOf(layer, prepared)
  if (!classes || classes.shadeOf || typeof settings !== 'object' || !('method' in settings)) return settings
  return {
    ...settings,
    method: 'manual',
    manualBreaks: classes.result.breaks.slice(1, -1),
    classes: classes.labels.length,
  }
}

/** What a variant is, in a word or two, for its caption. */
export function variantWords(
  variant: PanelVariant,
  { layer, prepared }: { layer?: Pick<Layer, 'name'>; prepared?: Prepared },
): string {
  if (variant.by === 'layer') return layer?.name ?? ''
  if (variant.by === 'year') return String(variant.year)
  if (variant.by === 'value') return variant.value
  return prepared?.fieldMeta(variant.field).label ?? variant.field
}
