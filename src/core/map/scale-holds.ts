import { createProjection } from '@/core/projection/projection'
import type { MapSpec, MapView } from './spec'
import { groundMetresPerMm, unproject, viewProjection, paperTransform } from './view'

/** A scale bar is true where the scale over its panel differs by no more than this share. */
export const mostScaleChange = 0.05

/** Places along each side of a panel at which the scale is measured. */
const places = 5

/**
 * How much the scale of a map changes over a panel: the largest over the smallest length of ground to a millimetre of
 * paper, sideways, at places spread over it that lie on the globe, less one.
 */
export function scaleChange(
  map: Pick<MapSpec, 'projection'>,
  view: MapView,
  size: { width: number; height: number },
): number {
  const projection = viewProjection(map, view)
  const window = { x: 0, y: 0, ...size }
  const to = paperTransform(projection, view, window)
  const plain = createProjection(map.projection)
  let [least, most] = [Infinity, 0]
  for (let row = 0; row < places; row++)
    for (let column = 0; column < places; column++) {
      const centre = unproject(
        projection,
        to,
        (size.width * (column + 0.5)) / places,
        (size.height * (row + 0.5)) / places,
      )
      if (!centre || Math.abs(centre[1]) > 89) continue
      // At the scale of the page, whatever it is at the middle.
      const here = groundMetresPerMm(plain, { centre, scaleDenominator: scaleAt(map, view, centre) }, 1)
      if (!Number.isFinite(here) || here <= 0) continue
      least = Math.min(least, here)
      most = Math.max(most, here)
    }
  return most > 0 ? most / least - 1 : 0
}

/** The denominator that a view about another place has so that the map is as large as in this one. */
function scaleAt(map: Pick<MapSpec, 'projection'>, view: MapView, centre: [number, number]): number {
  const projection = createProjection(map.projection)
  const window = { x: 0, y: 0, width: 1, height: 1 }
  const { mmPerMetre } = paperTransform(projection, view, window)
  const there = paperTransform(projection, { centre, scaleDenominator: view.scaleDenominator }, window)
  return (view.scaleDenominator * there.mmPerMetre) / mmPerMetre
}
