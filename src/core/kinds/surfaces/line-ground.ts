import { featureAt } from '@/core/geo/feature-at'
import { toMetres } from '@/core/geo/paper'
import type { Colour } from '@/core/scene/paint'
import { cellUnder } from '../cells-on-paper/under'
import type { DrawContext } from '../kind'
import type { SurfaceLook } from './look'

/** Pieces of lines of one colour. */
export type ColouredLines = { colour: Colour; pieces: Float64Array[] }

/** Where a line goes from one ground to another is found to this share of the piece between two of its places. */
const halvings = 12

/** The number of the ground at a place on paper, in the order of the settings; −1 for none. */
export type GroundAt = (x: number, y: number) => number

/** What tells the ground under a place on paper; null where lines have one colour everywhere. */
export function groundAt(
  { on }: SurfaceLook['lines'],
  { projection, to, datasetOf }: Pick<DrawContext, 'projection' | 'to' | 'datasetOf'>,
): GroundAt | null {
  const grounds = on.map(({ datasetId, value }) => {
    const dataset = datasetOf(datasetId)
    if (dataset?.raster) {
      const under = cellUnder(dataset.raster, 0)
      return (place: [number, number]) => under(place) === value
    }
    return dataset?.geometry.kind === 'areas'
      ? (place: [number, number]) => featureAt(dataset.geometry, ...place) >= 0
      : null
  })
  if (grounds.every((ground) => ground === null)) return null
  return (x, y) => {
    const place = projection.invert(...toMetres(to, x, y))
    return place ? grounds.findIndex((holds) => holds?.(place) ?? false) : -1
  }
}

/**
 * Lines cut where they go from one ground to another, by colour: first those on none, then those of each ground. Two
 * pieces that meet have the place where they were cut in common.
 */
export function byGround(
  lines: Float64Array[],
  { colour, on }: Pick<SurfaceLook['lines'], 'colour' | 'on'>,
  at: GroundAt,
): ColouredLines[] {
  const found: ColouredLines[] = [colour, ...on.map((ground) => ground.colour)].map((own) => ({
    colour: own,
    pieces: [],
  }))
  for (const line of lines) {
    let ground = at(line[0], line[1])
    let piece: number[] = [line[0], line[1]]
    for (let i = 2; i < line.length; i += 2) {
      const [x, y] = [line[i], line[i + 1]]
      const next = at(x, y)
      if (next !== ground) {
        const cut = crossing(at, ground, { from: [line[i - 2], line[i - 1]], to: [x, y] })
        piece.push(...cut)
        found[ground + 1].pieces.push(Float64Array.from(piece))
        piece = [...cut]
        ground = next
      }
      piece.push(x, y)
    }
    if (piece.length > 2) found[ground + 1].pieces.push(Float64Array.from(piece))
  }
  return found.filter(({ pieces }) => pieces.length > 0)
}

type Place = [x: number, y: number]

/** Where a straight piece of line leaves the ground that it begins on. */
function crossing(at: GroundAt, ground: number, { from, to }: { from: Place; to: Place }): Place {
  let [inside, outside] = [from, to]
  for (let k = 0; k < halvings; k++) {
    const middle: Place = [(inside[0] + outside[0]) / 2, (inside[1] + outside[1]) / 2]
    if (at(...middle) === ground) inside = middle
    else outside = middle
  }
  return [(inside[0] + outside[0]) / 2, (inside[1] + outside[1]) / 2]
}
