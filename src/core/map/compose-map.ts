import { generalise } from '@/core/geo/generalise'
import type { PaperWindow } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import type { Classes } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import { identityOf, rowName, type Prepared } from '@/core/data/prepare'
import { createProjection } from '@/core/projection/projection'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { group, path, type Group } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import type { Layer, MapSpec, MapView } from './spec'
import { paperTransform } from './view'

export type MapInput = {
  map: MapSpec
  view: MapView
  /** Where the map lies on the page, in paper millimetres. */
  window: PaperWindow
  datasets: Map<string, Prepared>
  fonts: FontBook
  /** Details smaller than this on paper are dropped. 0.02 mm cannot be seen in print. */
  toleranceMm: number
  /** Set before the ids of the layers, so that two panels of a sheet keep theirs apart. */
  idPrefix?: string
}

/** A map as one clipped group: its background, then a layer group for each visible layer, bottom first. */
export function composeMap({ map, view, window, datasets, fonts, toleranceMm, idPrefix = '' }: MapInput): Group {
  const projection = createProjection(map.projection)
  const to = paperTransform(projection, view, window)
  const layers = [...map.layers].reverse().flatMap((layer) => {
    const prepared = datasets.get(layer.datasetId)
    if (!prepared || !layer.visible) return []
    const projected = generalise(projectGeometry(prepared.dataset.geometry, projection), toleranceMm / to.mmPerMetre)
    const kind = kindOf(layer.symbology.kind)
    const nodes = kind.draw(planOf(layer, prepared), layer.symbology.settings, {
      dataset: prepared.dataset,
      datasetOf: prepared.datasetOf,
      projection,
      toleranceMm,
      projected,
      to,
      window,
      fonts,
      featureName: (feature) => `${layer.name} ${rowName(prepared, feature)}`,
    })
    return [group(`${idPrefix}${layer.name}`, nodes, { name: layer.name, layer: true, opacity: layer.opacity, blend: layer.blend })]
  })
  const ground = group(`${idPrefix}background`, [path(rectangle(window), { fill: solid(map.background) })], { name: 'Background', layer: true })
  return group(`${idPrefix}map`, [ground, ...layers], { name: map.name, clip: rectangle(window) })
}

const plans = new WeakMap<object, Map<string, unknown>>()

/** The plan of a layer; kept as long as the rows live and the settings do not change. */
export function planOf({ symbology }: Layer, prepared: Prepared): unknown {
  const kind = kindOf(symbology.kind)
  const known = plans.get(prepared.dataset) ?? new Map<string, unknown>()
  plans.set(prepared.dataset, known)
  const key = JSON.stringify([symbology, kind.needs(symbology.settings).map((id) => { const other = prepared.datasetOf(id); return other && identityOf(other) })])
  if (!known.has(key)) {
    if (known.size > 20) known.clear()
    known.set(key, kind.plan(symbology.settings, kindData(prepared)))
  }
  return known.get(key)
}

/** Every dataset that a layer draws on, its own first. */
export const layerNeeds = ({ datasetId, symbology }: Layer): string[] => [datasetId, ...kindOf(symbology.kind).needs(symbology.settings)]

/** The classes of a layer's field at `which`; null for kinds without classes. */
export const classesOf = (layer: Layer, prepared: Prepared, which = 0): Classes | null => kindOf(layer.symbology.kind).classification(planOf(layer, prepared), layer.symbology.settings, kindData(prepared), which)

/** The classes of all fields of a layer that have some. */
export const allClassesOf = (layer: Layer, prepared: Prepared): Classes[] =>
  kindOf(layer.symbology.kind).classings(layer.symbology.settings).flatMap((_, which) => classesOf(layer, prepared, which) ?? [])

export const kindData = (prepared: Prepared) => ({ dataset: prepared.dataset, name: prepared.entry.name, fieldMeta: prepared.fieldMeta, datasetOf: prepared.datasetOf, datasetIds: prepared.datasetIds })
