import type { Prepared } from '@/core/data/prepare'
import { rasterAt } from '@/core/data/raster'
import { cellPlace } from '@/core/data/raster-ground'
import { featureAt } from '@/core/geo/feature-at'
import type { Geometry } from '@/core/geo/geometry'
import { toPaper } from '@/core/geo/paper'
import { kindOf } from '@/core/kinds/registry'
import { drawnLayers, type DrawnLayer } from '@/core/map/drawn'
import { paperTransform, placesShown, unproject, viewProjection } from '@/core/map/view'
import type { MapSpec, MapView } from '@/core/map/spec'
import type { PartBox } from './part'

/** Cells of a panel that are looked into, mm. */
const cellMm = 3

/** Which cells of a part of the page something lies in. */
export type Room = { box: PartBox; columns: number; rows: number; taken: Uint8Array }

/** What nothing is said by and covers more of a panel than this is its backdrop: parts may lie over it. */
const mostCovered = 0.9

/**
 * Where a part of the page is taken by what the map of a panel draws and where there is room: areas and rasters are
 * looked up at the middle of each cell, points and the vertices of lines take the cells about them. Other boxes may be
 * taken from the start.
 */
export function roomIn(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  {
    view,
    panel,
    box = panel,
    boxes = [],
  }: { view: MapView; panel: PartBox; box?: PartBox; boxes?: readonly PartBox[] },
): Room {
  const columns = Math.max(1, Math.floor(box.width / cellMm))
  const rows = Math.max(1, Math.floor(box.height / cellMm))
  const room: Room = { box, columns, rows, taken: new Uint8Array(columns * rows) }
  const over = placesUnder(room, { map, view, panel })
  const inPanel = over.cells.filter((place) => place !== null).length
  for (const drawn of drawnLayers(map, view, datasets)) {
    const own: Room = { ...room, taken: new Uint8Array(columns * rows) }
    takeLayer(own, drawn, { over, datasets })
    const covered = own.taken.reduce((sum, one) => sum + one, 0) / inPanel
    if (covered > mostCovered && !kindOf(drawn.layer.symbology.kind).thematic) continue
    own.taken.forEach((one, i) => (room.taken[i] |= one))
  }
  for (const one of boxes) take(room, one)
  return room
}

/** The place under the middle of each cell, null off the panel and off the globe; and where places lie on the page. */
type Over = {
  cells: ([number, number] | null)[]
  at: (lon: number, lat: number) => [number, number] | null
}

function placesUnder(
  { box, columns, rows }: Room,
  { map, view, panel }: { map: MapSpec; view: MapView; panel: PartBox },
): Over {
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, panel)
  const isIn = (x: number, y: number): boolean =>
    x > panel.x && x < panel.x + panel.width && y > panel.y && y < panel.y + panel.height
  return {
    cells: Array.from({ length: columns * rows }, (_, i) => {
      const [x, y] = [
        box.x + ((i % columns) + 0.5) * cellMm,
        box.y + (Math.floor(i / columns) + 0.5) * cellMm,
      ]
      return isIn(x, y) ? unproject(projection, to, x, y) : null
    }),
    at(lon, lat) {
      const [x, y] = toPaper(to, ...projection.project(lon, lat))
      return isIn(x, y) ? [x, y] : null
    },
  }
}

function takeLayer(
  room: Room,
  drawn: DrawnLayer,
  { over, datasets }: { over: Over; datasets: Map<string, Prepared> },
): void {
  const { raster } = drawn.prepared.dataset
  if (raster) {
    const cellOf = cellPlace(raster)
    return takeWhere(room, over, (place) => !Number.isNaN(rasterAt(raster, 0, ...cellOf(...place))))
  }
  for (const geometry of placesShown(drawn, datasets)) {
    if (geometry.kind === 'areas') takeWhere(room, over, (place) => featureAt(geometry, ...place) >= 0)
    else
      for (const place of placesOf(geometry)) {
        const at = over.at(...place)
        if (at) takeAround(room, ...at)
      }
  }
}

const takeWhere = ({ taken }: Room, { cells }: Over, isThere: (place: [number, number]) => boolean): void =>
  cells.forEach((place, i) => {
    if (place && isThere(place)) taken[i] = 1
  })

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

/** How much of a box is taken, as a share of its cells; what reaches out of the room counts as taken. */
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

/** Places from one to another, a cell apart, with both of them. */
const stepsTo = (from: number, to: number): number[] => [
  ...Array.from({ length: Math.max(0, Math.ceil((to - from) / cellMm)) }, (_, i) => from + i * cellMm),
  Math.max(from, to),
]

export type Corner = 'top left' | 'top right' | 'bottom left' | 'bottom right'

/** Parts keep so far off the edge of the room, and off what lies in it where they can, mm. */
const [edgeMm, clearMm] = [4, 3]

/** How much of a box and of what lies close about it is taken; beyond the edge of the room nothing is. */
function crowding(room: Room, { x, y, width, height }: PartBox): number {
  const { box } = room
  const [left, top] = [Math.max(box.x, x - clearMm), Math.max(box.y, y - clearMm)]
  const right = Math.min(box.x + room.columns * cellMm, x + width + clearMm)
  const bottom = Math.min(box.y + room.rows * cellMm, y + height + clearMm)
  return takenShare(room, { x: left, y: top, width: right - left, height: bottom - top })
}

/**
 * The place for a part of a size in a room that is taken least, with what lies close about it; the nearest to a corner
 * of those, within a part of the room. And how much of it is taken.
 */
export function placeOver(
  room: Room,
  size: { width: number; height: number },
  corners: readonly Corner[],
  box: PartBox = room.box,
): { box: PartBox; taken: number } {
  const [right, bottom] = [box.x + box.width - edgeMm - size.width, box.y + box.height - edgeMm - size.height]
  const [left, top] = [box.x + edgeMm, box.y + edgeMm]
  const from = corners.map((corner) => ({
    x: corner.endsWith('left') ? left : right,
    y: corner.startsWith('top') ? top : bottom,
  }))
  let best = { box: { ...from[0], ...size }, taken: Infinity, crowd: Infinity, far: Infinity }
  for (const y of stepsTo(top, bottom))
    for (const x of stepsTo(left, right)) {
      const place = { x, y, ...size }
      const crowd = takenShare(room, place) + crowding(room, place)
      if (crowd > best.crowd + 1e-9) continue
      // The first corner is worth a third of the page more than the next.
      const far = Math.min(
        ...from.map((corner, i) => Math.hypot(corner.x - x, corner.y - y) + (i * box.width) / 3),
      )
      if (crowd < best.crowd - 1e-9 || far < best.far)
        best = { box: place, taken: takenShare(room, place), crowd, far }
    }
  return { box: best.box, taken: best.taken }
}
