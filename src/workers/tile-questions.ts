import type { Tiles } from '@/core/cartogram/tile-hand'
import type { Prepared } from '@/core/data/prepare'
import { rowKeys, rowName } from '@/core/data/row-names'
import type { CartogramShapes } from '@/core/kinds/cartogram'
import { kindData, layerSteps, planOf, shapesOf } from '@/core/map/layer-plan'
import { shownOf } from '@/core/map/shown'
import type { Layer } from '@/core/map/spec'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { inPieces } from './pieces'

/** Tiles of a cartogram as they are drawn, with the keys and names of their rows. */
export type TilesThere = Pick<Tiles, 'grid' | 'cells'> & { keys: string[]; names: string[] }

/** What is asked of a layer of tiles while they are moved by hand. */
export function tileQuestions(datasets: () => Map<string, Prepared>) {
  /** Tiles of a layer where they are, by hand or by themselves; null for layers without tiles. */
  async function tilesOn(layer: Layer, plane: ProjectionSpec): Promise<TilesThere | null> {
    const prepared = shownOf(layer, datasets())
    if (!prepared || layer.symbology.kind !== 'cartogram') return null
    await inPieces(() => layerSteps(layer, prepared, plane), { isDropped: () => false })
    const shapes = shapesOf(layer, prepared, planOf(layer, prepared), plane) as CartogramShapes
    const tiles = shapes?.made.tiles
    if (!tiles) return null
    const data = kindData(prepared)
    return {
      grid: tiles.grid,
      cells: tiles.cells,
      keys: rowKeys(data),
      names: tiles.cells.map((_, row) => rowName(data, row)),
    }
  }

  return { tilesOn }
}
