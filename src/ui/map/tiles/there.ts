'use client'
import { useEffect, useState } from 'react'
import { create } from 'zustand'
import type { TileAddress } from '@/core/cartogram/tile-hand'
import { keptTiles } from '@/core/kinds/cartogram/tiles'
import type { Layer, MapSpec } from '@/core/map/spec'
import { createProjection } from '@/core/projection/projection'
import { ask } from '@/workers/client'
import type { TilesThere } from '@/workers/tile-questions'
import { folioNow, useDocument } from '../../shell/folio-store'
import { editingOf } from '../kinds/kind-ui'

/** Whether tiles are moved by the pointer; part of the work, not of the document. */
export const useTileHand = create<{ moving: boolean }>()(() => ({ moving: false }))

/** The tiles of a layer as they are drawn; while others are under way those before stay. */
export function useTiles(map: MapSpec, layer: Layer): TilesThere | null {
  const { datasets } = useDocument()
  const [there, setThere] = useState<TilesThere | null>(null)
  const { projection } = map
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.tilesOn(layer, projection)).then(
      (tiles) => here && setThere(tiles),
      () => undefined,
    )
    return () => void (here = false)
  }, [layer, projection, datasets])
  return there
}

/** Tiles as they are from now on: all that are there are placed by hand then. */
export function placeTiles(
  { map: { projection }, layer, there }: { map: MapSpec; layer: Layer; there: TilesThere },
  cells: (TileAddress | null)[],
  name: string,
): void {
  const { s, change } = editingOf('cartogram', layer)
  const kept = keptTiles({ grid: there.grid, cells }, s.tiles, there.keys, createProjection(projection))
  if (kept) change(name, (draft) => void (draft.tiles = kept))
}
