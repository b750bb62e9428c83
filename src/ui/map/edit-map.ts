'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import type { Prepared } from '@/core/data/prepare'
import { kindOf, type KindId, symbologyOf, type Symbology } from '@/core/kinds/registry'
import { firstChoropleth } from '@/core/kinds/choropleth/first'
import { firstLayer, firstMap, proposedSymbology } from '@/core/map/first-map'
import { kindData } from '@/core/map/layer-plan'
import type { Shown } from '@/core/kinds/values'
import { makeLayer, type Layer, type MapSpec } from '@/core/map/spec'
import { editFolio, useFolio } from '../shell/folio-store'

/** Changes one layer of the folio; edits with the same `merge` key become one step of undo. */
export function editLayer(
  layerId: string,
  name: string,
  recipe: (layer: Draft<Layer>) => void,
  merge?: string,
): void {
  editFolio(
    name,
    (draft) => {
      for (const map of draft.maps) for (const layer of map.layers) if (layer.id === layerId) recipe(layer)
    },
    merge && `${layerId} ${merge}`,
  )
}

export function editMap(
  mapId: string,
  name: string,
  recipe: (map: Draft<MapSpec>) => void,
  merge?: string,
): void {
  editFolio(
    name,
    (draft) => {
      const map = draft.maps.find((m) => m.id === mapId)
      if (map) recipe(map)
    },
    merge && `${mapId} ${merge}`,
  )
}

/** The kind by which a dataset is shown before anybody chose. */
export const proposedKind = (prepared: Prepared): KindId | null => proposedSymbology(prepared)?.kind ?? null

export const newId = (): string => nanoid(8)

/** Adds a layer for a dataset on top of the map, or starts the folio's first map with it. */
export function addLayer(mapId: string | null, prepared: Prepared, plainly = false): void {
  const layer = firstLayer(prepared, newId, plainly)
  const existing = useFolio.getState().history.folio.maps.find((m) => m.id === mapId)
  const map = existing ?? firstMap(prepared, layer, newId)
  editFolio(`Add layer ${layer.name}`, (draft) => {
    if (existing) draft.maps.find((m) => m.id === map.id)?.layers.unshift(layer as Draft<Layer>)
    else draft.maps.push(map as Draft<MapSpec>)
  })
  useFolio.getState().select({ mapId: map.id, layerId: layer.id })
}

/** Shades the areas of a layer by the same field, right beneath it. */
export function shadeBeneath(layer: Layer, prepared: Prepared, shown: Shown): void {
  const { initial } = kindOf('choropleth')
  const { field, per, perCount } = shown
  const shade = makeLayer({
    id: newId(),
    name: prepared.fieldMeta(field).label,
    datasetId: layer.datasetId,
    symbology: symbologyOf('choropleth', {
      ...(initial(kindData(prepared)) as object),
      field,
      per,
      perCount,
    }),
    filter: layer.filter,
  })
  editFolio(`Shade ${shade.name} beneath`, (draft) => {
    for (const map of draft.maps) {
      const at = map.layers.findIndex(({ id }) => id === layer.id)
      if (at >= 0) map.layers.splice(at + 1, 0, { ...shade, groupId: layer.groupId } as Draft<Layer>)
    }
  })
}

/** Puts the areas of a dataset beneath everything else of a map, plainly; the chosen layer stays chosen. */
export function addBeneath(map: MapSpec, prepared: Prepared): void {
  const layer = firstLayer(prepared, newId, true)
  editMap(map.id, `${layer.name} beneath`, (draft) => void draft.layers.push(layer as Draft<Layer>))
}

/**
 * Switches a layer to another kind and keeps the settings of the old one for the way back. Between kinds that are alike
 * what both have stays as it is.
 */
export function switchKind(layer: Layer, prepared: Prepared, kind: KindId): void {
  editLayer(layer.id, `Show as ${kindOf(kind).label.toLowerCase()}`, (draft) => {
    draft.remembered[draft.symbology.kind] = draft.symbology.settings
    const { settings, initial, alike, own: apart = [] } = kindOf(kind)
    const kept = settings.safeParse(draft.remembered[kind])
    const own = kept.success ? kept.data : initial(kindData(prepared))
    const before = layer.symbology
    const along = alike !== undefined && kindOf(before.kind).alike === alike
    const theirs = new Set([...apart, ...(kindOf(before.kind).own ?? [])])
    const common = Object.fromEntries(
      Object.entries(before.settings as object).filter(([key]) => !theirs.has(key)),
    )
    draft.symbology = {
      kind,
      settings: along ? settings.parse({ ...(own as object), ...common }) : own,
    } as Draft<Symbology>
    draft.inLegend = kindOf(kind).thematic
  })
}

/**
 * Shades the areas of a dataset by one of its fields and goes to the Map desk. The layer that shows the
 * dataset already keeps its other choices.
 */
export function mapField(prepared: Prepared, field: string): void {
  const { history, selection, select, openDesk } = useFolio.getState()
  const maps = history.folio.maps
  const map = maps.find((m) => m.id === selection.mapId) ?? maps[0]
  const shows = ({ symbology }: Layer) => kindOf(symbology.kind).showField
  const layer = map?.layers.find((l) => l.datasetId === prepared.entry.id && shows(l))
  if (map && layer) {
    editLayer(layer.id, 'Map another field', (draft) => {
      const { kind, settings } = layer.symbology
      draft.symbology = symbologyOf(kind, shows(layer)?.(settings, field))
      draft.name = prepared.fieldMeta(field).label
    })
    select({ mapId: map.id, layerId: layer.id })
  } else {
    const made = firstLayer(prepared, newId)
    const shaded: Layer = {
      ...made,
      name: prepared.fieldMeta(field).label,
      symbology: symbologyOf(
        'choropleth',
        firstChoropleth({ field, per: null, perCount: 1 }, kindData(prepared)),
      ),
      inLegend: true,
    }
    const target = map ?? firstMap(prepared, shaded, newId)
    editFolio(`Map ${shaded.name}`, (draft) => {
      if (map) draft.maps.find((m) => m.id === map.id)?.layers.unshift(shaded as Draft<Layer>)
      else draft.maps.push(target as Draft<MapSpec>)
    })
    select({ mapId: target.id, layerId: shaded.id })
  }
  openDesk('map')
}
