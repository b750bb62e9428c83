import { createCanvas } from '@napi-rs/canvas'
import type { Position } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { groundAreas } from '@/core/geo/measure'
import { polygonsOf } from '@/core/geo/shapes'
import { placeDots } from '@/core/kinds/dots/place'
import { randomFrom } from '@/core/grid/random'
import { solid } from '@/core/scene/paint'
import { group, path, type Scene } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { datasetFromTopology } from '@/formats/topojson/read'
import { drawScene } from '@/render/canvas/draw'
import { nodeSurface } from '@/render/raster/bitmap'
import { largeCountry } from '../demo/lindmere/large'
import { interleaved, type Ratio } from './measure'

const count = 1_000_000
const [widthPx, heightPx] = [1200, 800]

/** As many points thrown into the box around an area, and thrown again until they lie in it. */
function plainPoints(rings: Position[][], n: number, random: () => number): Float64Array {
  const [outer] = rings
  const [west, east] = [Math.min(...outer.map(([x]) => x)), Math.max(...outer.map(([x]) => x))]
  const [south, north] = [Math.min(...outer.map(([, y]) => y)), Math.max(...outer.map(([, y]) => y))]
  const out = new Float64Array(2 * n)
  for (let i = 0; i < n;) {
    const [x, y] = [west + random() * (east - west), south + random() * (north - south)]
    let inside = false
    for (const ring of rings)
      for (let a = 0, b = ring.length - 1; a < ring.length; b = a++) {
        const [[xa, ya], [xb, yb]] = [ring[a], ring[b]]
        if (ya > y !== yb > y && x < ((xb - xa) * (y - ya)) / (yb - ya) + xa) inside = !inside
      }
    if (!inside) continue
    out[2 * i] = x
    out[2 * i + 1] = y
    i++
  }
  return out
}

/** A million dots: placed evenly against placed by mere chance, and drawn in another colour against the first time. */
export function dotRatios(): Ratio[] {
  const topology = largeCountry(2400, 120_000)
  const { dataset } = datasetFromTopology(topology, topology.objects.areas as GeometryObject, 'large')
  const { geometry } = dataset
  if (geometry.kind !== 'areas') throw new Error('The country has areas.')
  const areas = groundAreas(geometry)
  const total = areas.reduce((sum, one) => sum + one, 0)
  const polygons = Array.from({ length: dataset.rowCount }, (_, f) => polygonsOf(geometry, f))
  const wanted = Array.from(areas, (one) => Math.round((count * one) / total))
  const placed = (): Float64Array[] =>
    polygons.map((own, f) => placeDots(own, wanted[f], { random: randomFrom(1, f) }).lonLat)
  const { even, chance } = interleaved({
    even: () => void placed(),
    chance: () => polygons.forEach((own, f) => plainPoints(own[0], wanted[f], randomFrom(1, f))),
  })
  const all = placed()
  const coords = new Float64Array(all.reduce((sum, own) => sum + own.length, 0))
  let at = 0
  for (const own of all) {
    coords.set(own, at)
    at += own.length
  }
  const box = { west: Infinity, east: -Infinity, south: Infinity, north: -Infinity }
  for (let i = 0; i < coords.length; i += 2) {
    box.west = Math.min(box.west, coords[i])
    box.east = Math.max(box.east, coords[i])
    box.south = Math.min(box.south, coords[i + 1])
    box.north = Math.max(box.north, coords[i + 1])
  }
  const scale = Math.min(300 / (box.east - box.west), 200 / (box.north - box.south))
  const place = { scale, dx: -box.west * scale, dy: -box.south * scale }
  const context = createCanvas(widthPx, heightPx).getContext('2d') as unknown as CanvasRenderingContext2D
  const fonts = createFontBook()
  const sceneOf = (colour: string): Scene => ({
    widthMm: 300,
    heightMm: 200,
    background: '#ffffff',
    title: '',
    author: '',
    children: [group('dots', [path({ kind: 'dots', coords, r: 0.15, place }, { fill: solid(colour) })])],
  })
  const draw = (colour: string) =>
    drawScene(context, sceneOf(colour), { surface: nodeSurface, fonts, pixelsPerMm: 4, widthPx, heightPx })
  let n = 0
  const { again } = interleaved({ again: () => draw(n++ % 2 ? '#aa3322' : '#2233aa') })
  console.log(
    `dots: ${coords.length / 2} placed in ${even.toFixed(0)} ms, by chance ${chance.toFixed(0)} ms, drawn in ${again.toFixed(0)} ms`,
  )
  return [
    {
      name: '1,000,000 dots, placed',
      ratio: even / chance,
      budget: 4,
      base: `as many points by chance (${chance.toFixed(0)} ms)`,
    },
    {
      name: '1,000,000 dots, another colour',
      ratio: again / (even + again),
      budget: 0.35,
      base: `placing and drawing them (${(even + again).toFixed(0)} ms)`,
    },
  ]
}
