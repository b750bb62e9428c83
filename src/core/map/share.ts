import type { Share } from '@/core/classify/spec'
import { kindOf } from '@/core/kinds/registry'
import type { Layer, MapSpec } from './spec'

type Settings = Record<string, unknown>
type Maps = { maps: readonly MapSpec[] }

const settingsOf = ({ symbology }: Layer): Settings => symbology.settings as Settings
const layersOf = ({ maps }: Maps): Layer[] => maps.flatMap((map) => map.layers)

/** The scheme that a layer shares with others; null for one by itself. */
export const shareOf = (layer: Layer): Share | null =>
  kindOf(layer.symbology.kind).shared ? ((settingsOf(layer).share as Share | null | undefined) ?? null) : null

/** What a layer could share its scheme with: other layers of its kind, in all maps. */
export const shareable = (folio: Maps, layer: Layer): { map: MapSpec; layer: Layer }[] =>
  kindOf(layer.symbology.kind).shared
    ? folio.maps.flatMap((map) =>
        map.layers
          .filter((other) => other.id !== layer.id && other.symbology.kind === layer.symbology.kind)
          .map((other) => ({ map, layer: other })),
      )
    : []

const common = (layer: Layer): Settings =>
  Object.fromEntries(
    (kindOf(layer.symbology.kind).shared?.keys ?? []).map((key) => [key, settingsOf(layer)[key]]),
  )
const written = (layer: Layer): string => {
  const { share, ...rest } = common(layer)
  return JSON.stringify([rest, (share as Share | null)?.over])
}

/** Gives a layer the scheme of another one. Layers are changed in place. */
export function takeScheme(layer: Layer, from: Layer): void {
  Object.assign(settingsOf(layer), JSON.parse(JSON.stringify(common(from))))
}

/**
 * Keeps layers with one scheme alike after an edit: what was changed in one of them is taken over by the
 * others, and the list of what is reckoned together follows the layers. A scheme that one layer alone is left
 * with is its own again. `after` is changed in place.
 */
export function keepInStep(before: Maps, after: Maps): void {
  const groups = new Map<string, Layer[]>()
  for (const layer of layersOf(after)) {
    const share = shareOf(layer)
    if (share) groups.set(share.id, [...(groups.get(share.id) ?? []), layer])
  }
  if (!groups.size) return
  const former = new Map(layersOf(before).map((layer) => [layer.id, layer]))
  for (const members of groups.values()) {
    const alike = members.filter((layer) => layer.symbology.kind === members[0].symbology.kind)
    if (alike.length < 2) {
      for (const layer of members) settingsOf(layer).share = null
      continue
    }
    const changed = alike.find((layer) => {
      const old = former.get(layer.id)
      return old && shareOf(old)?.id === shareOf(layer)?.id && written(old) !== written(layer)
    })
    const lead = changed ?? alike[0]
    const plain = JSON.parse(JSON.stringify(common(lead))) as Settings
    const list = alike.flatMap(({ datasetId, symbology }): Share['members'] => {
      const { shared } = kindOf(symbology.kind)
      return shared ? [{ datasetId, ...shared.member(symbology.settings) }] : []
    })
    for (const layer of alike) {
      const next = { ...plain, share: { ...(plain.share as Share), members: list } }
      if (JSON.stringify(next) !== JSON.stringify(common(layer)))
        Object.assign(settingsOf(layer), structuredClone(next))
    }
  }
}
