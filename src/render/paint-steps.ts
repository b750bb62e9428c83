import { within, type Steps } from '@/core/grid/steps'
import { walk, type Raster, type Scene } from '@/core/scene/scene'

/** Reckons the cells of all rasters of a scene in pieces; null where there are none that take long. */
export function paintSteps(scene: Pick<Scene, 'children'>): Steps<void> | null {
  const rasters = [...walk(scene.children)].filter(
    (node): node is Raster => node.type === 'raster' && node.paint !== undefined,
  )
  return rasters.length ? paintAll(rasters) : null
}

function* paintAll(rasters: Raster[]): Steps<void> {
  const cells = rasters.map(({ columns, rows }) => columns * rows)
  const all = cells.reduce((a, b) => a + b, 0)
  let done = 0
  for (const [i, raster] of rasters.entries()) {
    if (raster.paint) yield* within(raster.paint(), done / all, (done + cells[i]) / all)
    done += cells[i]
  }
}
