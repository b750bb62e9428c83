import { sizeAtLevel, withTiles, type Raster, type ReadTile } from '@/core/data/raster'
import { rememberingTiles } from '@/core/data/tile-memory'
import { unpackTile } from '@/formats/raster-tiles/read'
import type { Dataset } from '@/core/data/dataset'

/**
 * Reads tiles of a stored raster from the server. A worker may wait for them: whatever composes or reckons goes on with
 * the cells at hand, and need not know where they come from.
 */
export function fetchedTiles({ fine, fileSize }: Raster): ReadTile {
  return rememberingTiles((tile) => {
    if (!fine) throw new Error('This raster has no fine cells.')
    const { level, band, column, row } = tile
    const request = new XMLHttpRequest()
    request.open('GET', `/api/contents/${fine.id}/tiles/${level}-${band}-${column}-${row}`, false)
    request.responseType = 'arraybuffer'
    request.send()
    if (request.status !== 200) throw new Error('Cells of a raster could not be loaded.')
    const whole = sizeAtLevel(fileSize[0], fileSize[1], level)
    return unpackTile(new Uint8Array(request.response as ArrayBuffer), {
      columns: Math.min(fine.side, whole.columns - column * fine.side),
      rows: Math.min(fine.side, whole.rows - row * fine.side),
    })
  })
}

/** A dataset of the store whose tiles are read from the server, if they are there: they may have been left behind. */
export async function withFetchedTiles(dataset: Dataset, id: string): Promise<Dataset> {
  const named = withTiles(dataset, id, null)
  if (!named.raster?.fine) return named
  const first = await fetch(`/api/contents/${id}/tiles/0-0-0-0`)
  return first.ok ? withTiles(named, id, fetchedTiles(named.raster)) : named
}
