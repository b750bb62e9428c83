import type { Position } from 'geojson'

/** Degrees by which a step may differ from a whole turn and still be none: figures of a file are rounded. */
const hair = 1e-9
/** A step over more degrees than this goes across the date line, not the long way through the map. */
const surelyAcross = 300
/** Nearer to a pole than this, rings go round it by large steps. */
const nearPole = 80

/** Whether two longitudes differ by a whole turn, and so are one meridian that a file calls by two names. */
export const isWholeTurn = (from: number, to: number): boolean => Math.abs(Math.abs(to - from) - 360) < hair

/**
 * Degrees that an edge of a file goes to the east, negative to the west. A step of a whole turn is none; one over
 * more than 300 degrees goes across the date line; one of 180 to 300 goes along the map as it is drawn, but for
 * those near a pole.
 */
export function stepOf([lon0, lat0]: Position, [lon, lat]: Position): number {
  const raw = lon - lon0
  const span = Math.abs(raw)
  if (span < 180) return raw
  if (isWholeTurn(lon0, lon)) return 0
  const across = span > surelyAcross || Math.max(Math.abs(lat0), Math.abs(lat)) > nearPole
  return across ? raw - 360 * Math.round(raw / 360) : raw
}

/**
 * A closed ring of a file with its longitudes counted on from its first place, whatever names the file gives them.
 * - `turns`: how often it goes round the axis, positive to the east.
 * - `jumps`: the places that a step of a whole turn leads to: the meridian stays, its name changes.
 */
export type Unwrapped = { places: Position[]; turns: number; jumps: number[] }

/**
 * Unwraps a ring.
 * @param wholeTurns steps of a whole turn are taken as drawn, which is what the frame of a whole map means
 */
export function unwrap(ring: Position[], wholeTurns = false): Unwrapped {
  const places: Position[] = []
  const jumps: number[] = []
  let x = 0
  for (let i = 0; i < ring.length; i++) {
    if (i === 0) x = ring[0][0]
    else if (isWholeTurn(ring[i - 1][0], ring[i][0])) {
      jumps.push(i)
      if (wholeTurns) x += ring[i][0] - ring[i - 1][0]
    } else {
      // Whole turns are counted, not steps added up, so that figures stay those of the file.
      const along = x + stepOf(ring[i - 1], ring[i]) - ring[i][0]
      x = ring[i][0] + 360 * Math.round(along / 360)
    }
    places.push([x, ring[i][1]])
  }
  const turns = ring.length ? Math.round((x - ring[0][0]) / 360) : 0
  return { places, turns, jumps }
}
