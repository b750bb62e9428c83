import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { deflateSync, inflateSync } from 'node:zlib'
import type { GeometryObject } from 'topojson-specification'
import type { Raster } from '@/core/data/raster'
import { statisticsInAreas } from '@/core/data/raster-zones'
import { extentOf } from '@/core/geo/extent'
import { hillshade } from '@/core/grid/relief/hillshade'
import { drain } from '@/core/grid/steps'
import { writePyramid } from '@/formats/raster-tiles/write'
import { datasetFromTopology } from '@/formats/topojson/read'
import { fileSink } from '@/server/work/file-source'
import { largeCountry } from '../demo/lindmere/large'
import { interleaved, type Ratio } from './measure'

const surface = (columns: number, rows: number): Float32Array =>
  Float32Array.from({ length: columns * rows }, (_, i) => {
    const [c, r] = [i % columns, Math.floor(i / columns)]
    return Math.round(700 + 400 * Math.sin(c / 190) * Math.cos(r / 230) + 60 * Math.sin(c / 17 + r / 23))
  })

/**
 * Light on 12 million cells against a plain loop that only reads and writes them; statistics of 2,400 areas over ten
 * million cells against one pass over these; and levels of detail written to tiles against packing the same bytes.
 */
export async function rasterRatios(): Promise<Ratio[]> {
  return [shading(), statistics(), ...writing()]
}

function shading(): Ratio {
  const [columns, rows] = [4000, 3000]
  const values = surface(columns, rows)
  const out = new Float32Array(values.length)
  const wishes = { azimuthDeg: 315, altitudeDeg: 45, exaggeration: 3 }
  const times = interleaved({
    shaded: () =>
      void hillshade({ values, columns, rows }, (_c, _r, step) => step.set([30, 0, 0, -30]), wishes, out),
    plain: () => {
      for (let i = 0; i < values.length; i++) out[i] = values[i] * 0.5
    },
  })
  return {
    name: 'hillshade of 12 million cells',
    ratio: times.shaded / times.plain,
    budget: 2,
    base: `a loop that reads and writes them (${times.plain.toFixed(0)} ms)`,
  }
}

function statistics(): Ratio {
  const topology = largeCountry(2400, 120_000)
  const { dataset } = datasetFromTopology(topology, topology.objects.areas as GeometryObject, 'large')
  const { geometry } = dataset
  const extent = extentOf([geometry])
  if (geometry.kind !== 'areas' || !extent) throw new Error('The country has areas.')
  const [west, south, east, north] = extent
  const [columns, rows] = [4000, 2500]
  const raster: Raster = {
    crs: '',
    columns,
    rows,
    bands: 1,
    transform: Float64Array.of(west, (east - west) / columns, 0, north, 0, (south - north) / rows),
    values: surface(columns, rows),
    edge: new Float64Array(0),
    fileSize: Uint32Array.of(columns, rows),
  }
  const { values } = raster
  let kept = 0
  const times = interleaved({
    areas: () => void drain(statisticsInAreas(raster, geometry, { band: 0 })),
    pass: () => {
      let [sum, min, max, count] = [0, Infinity, -Infinity, 0]
      for (let i = 0; i < values.length; i++) {
        const value = values[i]
        if (value !== value) continue
        sum += value
        count++
        if (value < min) min = value
        if (value > max) max = value
      }
      kept = sum + min + max + count
    },
  })
  if (!kept) throw new Error('The pass was left out.')
  return {
    name: 'statistics of 2,400 areas over 10,000,000 cells',
    ratio: times.areas / times.pass,
    budget: 3,
    base: `one pass over the cells (${times.pass.toFixed(0)} ms)`,
  }
}

function writing(): Ratio[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-bench-'))
  const [columns, rows] = [8000, 3000]
  const values = surface(columns, rows)
  const bytes = new Uint8Array(Int16Array.from(values).buffer)
  let most = 0
  const before = process.memoryUsage().rss
  const times = interleaved({
    tiles: () => {
      const pyramid = writePyramid({ columns, rows, bands: 1 }, () => fileSink(path.join(folder, 'tiles')))
      for (let r = 0; r < rows; r++) {
        pyramid.row([values.subarray(r * columns, (r + 1) * columns)])
        if (r % 256 === 0) most = Math.max(most, process.memoryUsage().rss)
      }
      pyramid.end()
    },
    plain: () => void inflateSync(deflateSync(bytes, { level: 1 })),
  })
  rmSync(folder, { recursive: true, force: true })
  return [
    {
      name: `levels of detail of 24 million cells, ${(24 / (times.tiles / 1000)).toFixed(1)} million a second`,
      ratio: times.tiles / times.plain,
      budget: 6,
      base: `packing their bytes (${times.plain.toFixed(0)} ms)`,
    },
    {
      name: 'memory while they are made, of 600 MB',
      ratio: Math.max(0, most - before) / 600e6,
      budget: 1,
      base: '600 MB beyond what was there',
    },
  ]
}
