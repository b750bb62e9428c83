import { geometriesOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/extent'
import { kindIds, kindOf, symbologyOf, type KindId, type Symbology } from '@/core/kinds/registry'
import { adviseEqualArea } from '@/core/projection/adviser'
import { becomingOf } from './becoming'
import { kindData } from './layer-plan'
import { makeLayer, makeMap, type Layer, type MapSpec } from './spec'
import { mainGeometry } from './view'

/** Hands out ids that nothing else in the folio has. */
export type NewId = () => string

/** Kinds that can show a dataset. */
export const kindsFor = (prepared: Prepared): KindId[] =>
  kindIds.filter((id) => kindOf(id).accepts(kindData(prepared)))

/** How a dataset is shown before anybody chose: what fits it best; null where no kind shows it. */
export function proposedSymbology(prepared: Prepared): Symbology | null {
  const [best] = becomingOf(prepared)
  if (best) return best.symbology
  const [kind] = kindsFor(prepared)
  return kind ? symbologyOf(kind, kindOf(kind).initial(kindData(prepared))) : null
}

/** A layer that shows a dataset by the first kind proposed for it, or plainly where `plainly` is set. */
export function firstLayer(prepared: Prepared, newId: NewId, plainly = false): Layer {
  const plain = plainly ? kindsFor(prepared).find((id) => !kindOf(id).thematic) : undefined
  const symbology = plain
    ? symbologyOf(plain, kindOf(plain).initial(kindData(prepared)))
    : (proposedSymbology(prepared) ?? symbologyOf('plain', kindOf('plain').initial(kindData(prepared))))
  return makeLayer({
    id: newId(),
    name: prepared.entry.name,
    datasetId: prepared.entry.id,
    symbology,
    inLegend: kindOf(symbology.kind).thematic,
  })
}

/** A map of a dataset in an equal-area projection that suits its extent. */
export function firstMap(prepared: Prepared, layer: Layer, newId: NewId): MapSpec {
  const extent = extentOf(geometriesOf(prepared.dataset).map(mainGeometry))
  return makeMap({
    id: newId(),
    name: layer.name,
    projection: adviseEqualArea(extent ?? [-180, -90, 180, 90]),
    background: '#e4eaed',
    layers: [layer],
  })
}
