import type { Position } from 'geojson'
import type { Projection } from '@/core/projection/projection'

/** Corners of a ring in the plane, x and y by turns, closed; `centre` always lies on the map. */
export type Ring = { places: number[]; centre: [number, number] }

/** Rounds of halving the way back to the map: a thousandth of it. */
const halvings = 10

/** Rings of the plane in degrees; corners off the map of the world are drawn in towards the middle. */
export function ringsToDegrees(projection: Projection) {
  let drawnIn = 0
  return {
    drawnIn: () => drawnIn,
    ring: ({ places, centre }: Ring): Position[] => {
      let whole = true
      const out: Position[] = []
      for (let i = 0; i < places.length; i += 2) {
        let place = projection.invert(places[i], places[i + 1])
        if (!place) {
          whole = false
          place = nearestOnMap(projection, centre, [places[i], places[i + 1]])
        }
        if (place) out.push(place)
      }
      if (!whole) drawnIn++
      return out
    },
  }
}

/** A place in degrees, drawn in towards `from` where it lies off the map of the world; null where `from` does too. */
export function nearestOnMap(
  projection: Projection,
  from: [number, number],
  to: [number, number],
): [number, number] | null {
  let [low, high] = [0, 1]
  let found = projection.invert(from[0], from[1])
  for (let k = 0; k < halvings; k++) {
    const middle = (low + high) / 2
    const place = projection.invert(
      from[0] + middle * (to[0] - from[0]),
      from[1] + middle * (to[1] - from[1]),
    )
    if (place) [low, found] = [middle, place]
    else high = middle
  }
  return found
}
