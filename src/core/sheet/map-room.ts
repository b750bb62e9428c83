import type { Prepared } from '@/core/data/prepare'
import { featureAt } from '@/core/geo/feature-at'
import type { Geometry } from '@/core/geo/geometry'
import { createProjection } from '@/core/projection/projection'
import { leadingGeometries, paperTransform, unproject } from '@/core/map/view'
import type { MapSpec, MapView } from '@/core/map/spec'
import type { PartBox } from './part'

/** Cells of a panel that are looked into, mm. */
const cellMm = 3

/** Which cells of a panel something of its map lies in. */
export type Room = { box: PartBox; columns: number; rows: number; taken: Uint8Array }

/**
 * Where a panel is taken and where there is room: areas are looked up at the middle of each cell, points and the
 * vertices of lines take the cells about them.
 */
export function roomIn(map: MapSpec, datasets: Map<string, Prepared>, view: MapView, box: PartBox): Room {
  const columns = Math.max(1, Math.floor(box.width / cellMm))
  const rows = Math.max(1, Math.floor(box.height / cellMm))
  const room: Room = { box, columns, rows, taken: new Uint8Array(columns * rows) }
  const projection = createProjection(map.projection)
  const to = paperTransform(projection, view, { ...box })
  for (const geometry of leadingGeometries(map, datasets)) {
    if (geometry.kind === 'areas') {
      for (let row = 0; row < rows; row++)
        for (let column = 0; column < columns; column++) {
          const [x, y] = [box.x + (column + 0.5) * cellMm, box.y + (row + 0.5) * cellMm]
          const place = unproject(projection, to, x, y)
          if (place && featureAt(geometry, ...place) >= 0) room.taken[row * columns + column] = 1
        }
      continue
    }
    for (const [lon, lat] of placesOf(geometry)) {
      const [x, y] = projection.project(lon, lat)
      takeAround(room, x * to.mmPerMetre + to.dx, y * to.mmPerMetre + to.dy)
    }
  }
  return room
}

function* placesOf(geometry: Geometry): Iterable<[number, number]> {
  if (geometry.kind !== 'points' && geometry.kind !== 'lines') return
  const coords = geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords
  for (let i = 0; i + 1 < coords.length; i += 2) yield [coords[i], coords[i + 1]]
}

function takeAround({ box, columns, rows, taken }: Room, x: number, y: number): void {
  const [c, r] = [Math.floor((x - box.x) / cellMm), Math.floor((y - box.y) / cellMm)]
  for (let row = Math.max(0, r - 1); row <= Math.min(rows - 1, r + 1); row++)
    for (let column = Math.max(0, c - 1); column <= Math.min(columns - 1, c + 1); column++)
      taken[row * columns + column] = 1
}

/** How much of a box is taken, as a share of its cells; what reaches out of the panel counts as taken. */
export function takenShare({ box, columns, rows, taken }: Room, inside: PartBox): number {
  const from = [Math.floor((inside.x - box.x) / cellMm), Math.floor((inside.y - box.y) / cellMm)]
  const to = [
    Math.ceil((inside.x + inside.width - box.x) / cellMm - 1e-9),
    Math.ceil((inside.y + inside.height - box.y) / cellMm - 1e-9),
  ]
  let [count, all] = [0, 0]
  for (let row = from[1]; row < to[1]; row++)
    for (let column = from[0]; column < to[0]; column++) {
      all++
      const isOut = row < 0 || column < 0 || row >= rows || column >= columns
      if (isOut || taken[row * columns + column]) count++
    }
  return all ? count / all : 0
}

/** Takes the cells of a box, so that nothing else is put there. */
export function take(room: Room, inside: PartBox): void {
  const { box, columns, rows, taken } = room
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x, y] = [box.x + (column + 0.5) * cellMm, box.y + (row + 0.5) * cellMm]
      const isIn = x > inside.x && x < inside.x + inside.width && y > inside.y && y < inside.y + inside.height
      if (isIn) taken[row * columns + column] = 1
    }
}

export type Corner = 'top left' | 'top right' | 'bottom left' | 'bottom right'

/** Parts keep so far off the edge of their panel, mm. */
const edgeMm = 4

/**
 * The place for a part of a size over a panel that is taken least, the nearest to a corner of those, and how much of
 * it is taken.
 */
export function placeOver(
  room: Room,
  size: { width: number; height: number },
  corners: readonly Corner[],
): { box: PartBox; taken: number } {
  const { box } = room
  const [right, bottom] = [box.x + box.width - edgeMm - size.width, box.y + box.height - edgeMm - size.height]
  const [left, top] = [box.x + edgeMm, box.y + edgeMm]
  const from = corners.map((corner) => ({
    x: corner.endsWith('left') ? left : right,
    y: corner.startsWith('top') ? top : bottom,
  }))
  let best = { box: { ...from[0], ...size }, taken: Infinity, far: Infinity }
  for (let y = top; y <= Math.max(top, bottom); y += cellMm)
    for (let x = left; x <= Math.max(left, right); x += cellMm) {
      const place = { x, y, ...size }
      const taken = takenShare(room, place)
      // The first corner is worth a third of the page more than the next.
      const far = Math.min(
        ...from.map((corner, i) => Math.hypot(corner.x - x, corner.y - y) + (i * box.width) / 3),
      )
      if (taken < best.taken - 1e-9 || (taken < best.taken + 1e-9 && far < best.far))
        best = { box: place, taken, far }
    }
  return { box: best.box, taken: best.taken }
}
