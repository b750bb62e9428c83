import type { Draft } from 'immer'
import type { Offer } from '@/core/map/offers'
import type { MapSpec } from '@/core/map/spec'
import { editFolio, useFolio } from '../../shell/folio-store'

/** Makes an offer a map of the folio and goes there. */
export function takeOffer({ map, layer }: Offer): void {
  editFolio(`Make the map ${map.name}`, (draft) => void draft.maps.push(map as Draft<MapSpec>))
  const { select, openDesk } = useFolio.getState()
  select({ mapId: map.id, layerId: layer.id })
  openDesk('map')
}
