'use client'
import { useEffect, useMemo, useState } from 'react'
import type { MapSpec } from '@/core/map/spec'
import { bentProjection } from '@/core/projection/bend'
import type { Bend, Projection } from '@/core/projection/projection'
import { panelPart, panelView } from '@/core/sheet/panel-view'
import type { PanelView } from '@/core/sheet/part'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { usePrepared } from '../shell/contents'
import { folioNow, useDocument } from '../shell/folio-store'

/**
 * What panels of a sheet show, by their ids (null is the first), for places on their maps. Of maps that are stretched
 * there is none until it has arrived how they are.
 */
export function usePanelViews(sheet: Sheet): (panelId: string | null) => PanelView | null {
  const { maps } = useDocument()
  const datasets = usePrepared()
  const [bends, setBends] = useState<Map<string, Bend | null>>(new Map())
  const stretched = useMemo(() => maps.filter(({ stretchedBy }) => stretchedBy !== null), [maps])
  const shown = new Set(sheet.parts.flatMap((part) => (part.type === 'panel' ? [part.settings.mapId] : [])))
  const needed = stretched.filter(({ id }) => shown.has(id))
  const key = needed.map(({ id }) => id).join()
  useEffect(() => {
    if (!key) return
    let here = true
    const asked = maps.filter(({ id }) => key.split(',').includes(id))
    void Promise.all(
      asked.map(async (map): Promise<[string, Bend | null]> => [
        map.id,
        await ask(folioNow(), (worker) => worker.bendOn(map)),
      ]),
    ).then(
      (all) => here && setBends(new Map(all)),
      () => undefined,
    )
    return () => void (here = false)
  }, [key, maps, datasets])
  return (panelId) => {
    const part = panelPart(sheet, panelId)
    const map = part && maps.find(({ id }) => id === part.settings.mapId)
    if (!part || (map?.stretchedBy && !bends.has(map.id))) return null
    const stretch = (of: MapSpec, straight: Projection): Projection => {
      const bend = bends.get(of.id)
      return bend
        ? bentProjection(straight, bend, (straight.spec.turnDeg ?? 0) - (of.projection.turnDeg ?? 0))
        : straight
    }
    return panelView(part, sheet, { maps, datasets, stretch })
  }
}
