import { createProjection } from '@/core/projection/projection'
import { paperTransform, unproject, viewProjection } from '@/core/map/view'
import type { MapSpec, MapView } from '@/core/map/spec'
import { mmPerPx } from '@/core/scene/units'

/** CSS pixels are 96 to the inch. */

export type SizePx = { width: number; height: number }

const windowMm = ({ width, height }: SizePx) => ({
  x: 0,
  y: 0,
  width: width * mmPerPx,
  height: height * mmPerPx,
})

/** Longitude and latitude under a pixel of the view. */
export function placeAt(
  map: MapSpec,
  view: MapView,
  size: SizePx,
  { xPx, yPx }: { xPx: number; yPx: number },
): [number, number] | null {
  const projection = viewProjection(map, view)
  return unproject(projection, paperTransform(projection, view, windowMm(size)), xPx * mmPerPx, yPx * mmPerPx)
}

export type ToPx = (x: number, y: number) => [number, number]

/** Places of the map’s plane in pixels of its window. */
export function planeToPx(map: MapSpec, view: MapView, size: SizePx): ToPx {
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, windowMm(size))
  const px = (x: number, y: number): [number, number] => [
    (x * to.mmPerMetre + to.dx) / mmPerPx,
    (y * to.mmPerMetre + to.dy) / mmPerPx,
  ]
  if (!view.turnDeg) return px
  // The plane of a view that is turned is another one.
  const plane = createProjection(map.projection)
  return (x, y) => {
    const place = plane.invert(x, y)
    return place ? px(...projection.project(...place)) : [NaN, NaN]
  }
}

/** The view after dragging by some pixels. */
export function panned(
  map: MapSpec,
  view: MapView,
  { size, dxPx, dyPx }: { size: SizePx; dxPx: number; dyPx: number },
): MapView {
  const centre = placeAt(map, view, size, { xPx: size.width / 2 - dxPx, yPx: size.height / 2 - dyPx })
  return centre ? { ...view, centre } : view
}

const closest = 500
const farthest = 2e8

/** The view `factor` times closer, with the place under a pixel staying there. */
export function zoomed(
  map: MapSpec,
  view: MapView,
  {
    size,
    factor,
    xPx = size.width / 2,
    yPx = size.height / 2,
  }: { size: SizePx; factor: number; xPx?: number; yPx?: number },
): MapView {
  const scaleDenominator = Math.min(farthest, Math.max(closest, view.scaleDenominator / factor))
  const real = view.scaleDenominator / scaleDenominator
  const keep = 1 - 1 / real
  const centre = placeAt(map, view, size, {
    xPx: size.width / 2 + (xPx - size.width / 2) * keep,
    yPx: size.height / 2 + (yPx - size.height / 2) * keep,
  })
  return centre ? { ...view, centre, scaleDenominator } : view
}

/** The CSS transform that moves a picture drawn for one view to where another view would show it. */
export function movedPicture(map: MapSpec, drawn: MapView, view: MapView, size: SizePx): string {
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, windowMm(size))
  const [x, y] = projection.project(...drawn.centre)
  const scale = drawn.scaleDenominator / view.scaleDenominator
  const dx = (x * to.mmPerMetre + to.dx) / mmPerPx - size.width / 2
  const dy = (y * to.mmPerMetre + to.dy) / mmPerPx - size.height / 2
  return `translate(${dx}px, ${dy}px) scale(${scale})`
}
