import { eachVertex, type Lines } from '@/core/geo/geometry'
import { bentOnce } from '@/core/geo/projected'
import { tearGeometry } from '@/core/geo/sphere/tear'
import type { Projection } from '@/core/projection/projection'
import { polyline } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { measureLine, textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import { toMetres, toPaper, isNear, windowBounds } from '@/core/geo/paper'
import type { Bounds } from '@/core/scene/bounds'
import { overlaps } from '@/core/scene/bounds'
import { intervals, type Graticule } from './spec'

/** One line of a graticule on paper, cut to the window: x, y, x, y… for each piece. */
export type GraticuleLine = { along: 'meridian' | 'parallel'; degrees: number; pieces: number[][] }

const reach = 60

const mostLines = 400

/** The part of the globe seen in a window; the whole of it where its edge or a pole may be in sight. */
export function seen(
  projection: Projection,
  to: PaperTransform,
  { x, y, width, height }: PaperWindow,
): [west: number, south: number, east: number, north: number] {
  const [lon0] = projection.spec.centre
  const lons: number[] = []
  const lats: number[] = []
  let off = false
  const steps = 12
  for (let i = 0; i <= steps; i++)
    for (let j = 0; j <= steps; j++) {
      const place = projection.invert(...toMetres(to, x + (width * i) / steps, y + (height * j) / steps))
      if (!place) off = true
      else {
        lons.push(((((place[0] - lon0 + 180) % 360) + 360) % 360) - 180)
        lats.push(place[1])
      }
    }
  if (off || !lons.length || Math.max(...lons) - Math.min(...lons) > 300)
    return [lon0 - 180, -90, lon0 + 180, 90]
  const spread = (values: number[]): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)]
    const more = (high - low) / steps
    return [low - more, high + more]
  }
  const [w, e] = spread(lons)
  const [s, n] = spread(lats)
  const poles = Math.max(Math.abs(s), Math.abs(n)) > 85
  return poles
    ? [lon0 - 180, Math.max(-90, s), lon0 + 180, Math.min(90, n)]
    : [lon0 + w, Math.max(-90, s), lon0 + e, Math.min(90, n)]
}

/** An interval that gives about six lines across the longer side. */
export const proposedInterval = ([w, s, e, n]: [number, number, number, number]): number => {
  const span = Math.max(e - w, n - s) / 6
  return intervals.findLast((degrees) => degrees >= span) ?? intervals[0]
}

/** The lines of a graticule in a window. */
export function graticuleLines(
  every: number | null,
  projection: Projection,
  to: PaperTransform,
  window: PaperWindow,
): GraticuleLine[] {
  const box = seen(projection, to, window)
  const [west, south, east, north] = box
  // An interval that is too fine for the scale gives the proposed one: it would only blacken the map.
  const step =
    every !== null && (east - west + north - south) / every <= mostLines ? every : proposedInterval(box)
  const lines: GraticuleLine[] = []
  const whole = east - west >= 359.99
  for (let i = Math.ceil(west / step - 1e-9); i * step <= east + 1e-9; i++) {
    const lon = i * step
    if (whole && lon > west + 360 - 1e-6) continue
    // Of many meridians only those of right angles reach the poles.
    const cap = Math.abs(lon / 90 - Math.round(lon / 90)) < 1e-9 ? 90 : 90 - Math.min(step, 10)
    lines.push({
      along: 'meridian',
      degrees: wrapped(lon),
      pieces: stretchOnPaper([lon, Math.max(south, -cap)], [lon, Math.min(north, cap)], {
        projection,
        to,
        window,
      }),
    })
  }
  for (let i = Math.ceil(south / step - 1e-9); i * step <= north + 1e-9; i++) {
    const lat = i * step
    if (Math.abs(lat) > 89.999) continue
    lines.push({
      along: 'parallel',
      degrees: lat,
      pieces: stretchOnPaper([west, lat], [east, lat], { projection, to, window }),
    })
  }
  return lines.filter(({ pieces }) => pieces.length)
}

const wrapped = (lon: number): number => {
  const turned = ((((lon + 180) % 360) + 360) % 360) - 180
  return Math.abs(turned + 180) < 1e-9 ? 180 : turned
}

/** A stretch of a meridian or parallel as pieces on paper, x and y by turns. */
function stretchOnPaper(
  [west, south]: [number, number],
  [east, north]: [number, number],
  { projection, to, window }: { projection: Projection; to: PaperTransform; window: PaperWindow },
): number[][] {
  const span = Math.max(Math.abs(east - west), Math.abs(north - south))
  const count = Math.max(2, Math.min(721, Math.ceil(span * 2) + 1))
  const coords = new Float64Array(2 * count)
  for (let i = 0; i < count; i++) {
    coords[2 * i] = west + ((east - west) * i) / (count - 1)
    coords[2 * i + 1] = south + ((north - south) * i) / (count - 1)
  }
  const one = Uint32Array.of(0, 1)
  const line: Lines = {
    kind: 'lines',
    arcs: { coords, starts: Uint32Array.of(0, count) },
    refs: Int32Array.of(0),
    ringStarts: one,
    featureStarts: one,
  }
  // Nothing is drawn across a tear of the globe.
  const torn = bentOnce(tearGeometry(line, projection.frame), projection)
  const pieces: number[][] = []
  for (let r = 0; r + 1 < torn.ringStarts.length; r++) {
    let piece: number[] = []
    const end = () => {
      if (piece.length >= 4) pieces.push(piece)
      piece = []
    }
    eachVertex(torn, r, (v) => {
      const [x, y] = toPaper(to, torn.arcs.coords[2 * v], torn.arcs.coords[2 * v + 1])
      // A little beyond the window, so that pieces run up to its edge.
      if (isNear(window, x, y, reach)) piece.push(x, y)
      else end()
    })
    end()
  }
  return pieces
}

/** “12° E”, “7° 30′ N”, “0°”. */
export function degreesText(along: GraticuleLine['along'], degrees: number): string {
  const size = Math.abs(degrees)
  const minutes = Math.round((size - Math.floor(size + 1e-9)) * 60)
  const number = `${Math.floor(size + 1e-9)}°${minutes ? ` ${minutes}′` : ''}`
  if (size < 1e-9 || (along === 'meridian' && Math.abs(size - 180) < 1e-9)) return number
  const [positive, negative] = along === 'meridian' ? ['E', 'W'] : ['N', 'S']
  return `${number} ${degrees > 0 ? positive : negative}`
}

/** Where a line crosses the straight edge of a window: meridians its top and foot, parallels its sides. */
function edgeCrossings(
  { along, pieces }: GraticuleLine,
  window: PaperWindow,
): { at: number; side: 'start' | 'end' }[] {
  const meridian = along === 'meridian'
  const edges = meridian ? [window.y, window.y + window.height] : [window.x, window.x + window.width]
  return edges.flatMap((edge, e) =>
    pieces.flatMap((piece) => {
      for (let i = 0; i + 3 < piece.length; i += 2) {
        const [a, b] = meridian ? [piece[i + 1], piece[i + 3]] : [piece[i], piece[i + 2]]
        if (a <= edge === b <= edge) continue
        const t = (edge - a) / (b - a)
        const at = meridian
          ? piece[i] + t * (piece[i + 2] - piece[i])
          : piece[i + 1] + t * (piece[i + 3] - piece[i + 1])
        return [{ at, side: e ? ('end' as const) : ('start' as const) }]
      }
      return []
    }),
  )
}

/**
 * The nodes of a graticule: its lines, and the degrees inside the edge of the window, off what will lie over
 * the map.
 */
export function drawGraticule(
  graticule: Graticule,
  projection: Projection,
  to: PaperTransform,
  { window, fonts, keepOff = [] }: { window: PaperWindow; fonts: FontBook; keepOff?: PaperWindow[] },
): { lines: Node[]; labels: Node[] } {
  const crossing = graticuleLines(graticule.everyDeg, projection, to, window)
  const style = stroke(graticule.colour, pointsToMm(graticule.widthPt), {
    dashMm: graticule.dashed ? [1.2, 0.9] : [],
    cap: 'butt',
  })
  const lines = (['meridian', 'parallel'] as const).flatMap((along) => {
    const pieces = crossing.filter((line) => line.along === along).flatMap((line) => line.pieces)
    return pieces.length
      ? [
          group(along === 'meridian' ? 'meridians' : 'parallels', [
            path(polyline(...pieces), { strokes: [style] }),
          ]),
        ]
      : []
  })
  if (!graticule.labels) return { lines, labels: [] }
  const { family, sizePt, colour } = graticule.labels
  const type = {
    font: { family, weight: 400 as const, italic: false },
    sizeMm: pointsToMm(sizePt),
    letterSpacingMm: 0,
  }
  const { capHeightMm } = verticalMetrics(fonts, type)
  const inset = 0.35 * type.sizeMm + 0.5
  const taken = keepOff.map((box) => windowBounds(box))
  const labels = crossing.flatMap((line) =>
    edgeCrossings(line, window).flatMap(({ at, side }): Node[] => {
      const text = degreesText(line.along, line.degrees)
      const { widthMm } = measureLine(fonts, text, type)
      const [x, y] =
        line.along === 'meridian'
          ? [
              at - widthMm / 2,
              side === 'start' ? window.y + inset + capHeightMm : window.y + window.height - inset,
            ]
          : [
              side === 'start' ? window.x + inset : window.x + window.width - inset - widthMm,
              at + capHeightMm / 2,
            ]
      const box: Bounds = [x - 0.6, y - capHeightMm - 0.6, x + widthMm + 0.6, y + 0.6]
      if (
        box[0] < window.x ||
        box[1] < window.y ||
        box[2] > window.x + window.width ||
        box[3] > window.y + window.height ||
        taken.some((other) => overlaps(box, other))
      )
        return []
      taken.push(box)
      return [textNode(fonts, text, type, { x, y, colour, halo: { colour: '#ffffff', widthMm: 0.25 } })]
    }),
  )
  return { lines, labels }
}
