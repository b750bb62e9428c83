import { formatNumber } from '@/core/classify/labels'
import type { Raster } from '@/core/data/raster'
import { finestMetres } from '@/core/data/raster-ground'
import type { Check } from '../check'

/** Three to the millimetre: with fewer, soft shades can be told apart as cells at arm's length. */
const leastCells = 75

/** How many cells of a raster lie along an inch of paper at a scale, of the finest that can be read here. */
const cellsToInch = (raster: Raster, scaleDenominator: number): number =>
  (0.0254 * scaleDenominator) / finestMetres(raster)

/** Reliefs and pictures of the ground: whether they are as fine as print shows. */
export const rasterFine: Check = {
  id: 'raster-fine',
  passed: 'Rasters are fine enough',
  failed: 'A raster is coarser than the page shows',
  run({ context }) {
    const found = context.panels.flatMap(({ map, view, layers }) =>
      layers.flatMap(({ layer, prepared: { dataset } }) => {
        const { raster } = dataset
        const { kind } = layer.symbology
        if (!raster || (kind !== 'relief' && kind !== 'raster')) return []
        return [{ map, layer, raster, cells: cellsToInch(raster, view.scaleDenominator) }]
      }),
    )
    if (!found.length) return null
    const [{ map, layer, raster, cells }] = found.sort((a, b) => a.cells - b.cells)
    const missing =
      raster.fine && !raster.readTile ? ' Its fine cells are not here: bring its file in again.' : ''
    if (cells >= leastCells && !missing)
      return {
        ok: true,
        detail: `at least ${formatNumber(Math.floor(cells), 0)} cells to the inch`,
        target: null,
      }
    return {
      ok: false,
      detail: `“${layer.name}” has ${formatNumber(Math.floor(cells), 0)} of ${leastCells} cells to the inch.${missing}`,
      target: { desk: 'map', mapId: map.id, layerId: layer.id },
    }
  },
}
