import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/extent'
import type { Extent } from '@/core/geo/geometry'
import { kindOf, type KindId } from '@/core/kinds/registry'
import { becomingOf, type Becoming } from './becoming'
import { firstLayer, firstMap, type NewId } from './first-map'
import { makeLayer, type Layer, type MapSpec } from './spec'

/** A map that data can become, ready to be drawn or taken over. */
export type Offer = Becoming & { id: string; prepared: Prepared; map: MapSpec; layer: Layer }

/** No more maps than this are offered at once. */
const most = 12

/** What some datasets can become, the best first; those that are drawn on no map by themselves lie beneath others. */
export function offersOf(wanted: Prepared[], all: Map<string, Prepared>, newId: NewId): Offer[] {
  const offers = wanted
    .flatMap((prepared) => becomingOf(prepared).map((becoming) => ({ prepared, becoming })))
    .sort((a, b) => b.becoming.fit - a.becoming.fit)
  // Two files of the same areas would fill the gallery with the same maps.
  const seen = new Set<string>()
  const different = offers.filter(({ becoming: { kind, shows } }) => {
    const key = JSON.stringify([kind, shows])
    return !seen.has(key) && seen.add(key)
  })
  // What says nothing of the data is offered only where there is nothing else.
  const telling = different.filter(({ becoming }) => kindOf(becoming.kind).thematic)
  return (telling.length ? telling : different).slice(0, most).map(({ prepared, becoming }): Offer => {
    const layer = makeLayer({
      id: newId(),
      name: becoming.shows,
      datasetId: prepared.entry.id,
      symbology: becoming.symbology,
      inLegend: kindOf(becoming.kind).thematic,
    })
    const ground =
      onOwnGround.includes(becoming.kind) && formOf(prepared.dataset) === 'areas'
        ? prepared
        : groundFor(prepared, all)
    const map = firstMap(prepared, layer, newId)
    const layers = ground ? [layer, firstLayer(ground, newId, true)] : [layer]
    return { ...becoming, id: layer.id, prepared, layer, map: { ...map, name: becoming.shows, layers } }
  })
}

/** Kinds that show areas by something in them: the areas lie beneath. */
const onOwnGround: readonly KindId[] = ['symbols', 'charts', 'dots']

/** Areas of the folio that points or lines lie on; those that reach least far beyond them. */
function groundFor(prepared: Prepared, all: Map<string, Prepared>): Prepared | null {
  if (!['points', 'lines'].includes(formOf(prepared.dataset))) return null
  const own = extentOf([prepared.dataset.geometry])
  const around = [...all.values()].flatMap((other) => {
    const extent = formOf(other.dataset) === 'areas' ? extentOf([other.dataset.geometry]) : null
    return own && extent && shared(own, extent) > 0.5 * sizeOf(own) ? [{ other, size: sizeOf(extent) }] : []
  })
  return around.sort((a, b) => a.size - b.size)[0]?.other ?? null
}

const sizeOf = ([w, s, e, n]: Extent): number => Math.max(1e-6, e - w) * Math.max(1e-6, n - s)
const shared = ([w, s, e, n]: Extent, [w2, s2, e2, n2]: Extent): number =>
  Math.max(0, Math.min(e, e2) - Math.max(w, w2)) * Math.max(0, Math.min(n, n2) - Math.max(s, s2))
