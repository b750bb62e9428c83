import { z } from 'zod'
import { blurredCells } from '@/core/grid/blur'
import { extremesAround } from '@/core/grid/relief/extremes'
import { aspectDeg, gradientsOf, slopeDeg, type GroundSteps } from '@/core/grid/relief/gradient'
import { hillshade } from '@/core/grid/relief/hillshade'
import type { Steps } from '@/core/grid/steps'
import type { Raster } from '../../raster'
import { cellMetres, groundStepsOf } from '../../raster-ground'
import type { StepKind } from '../step'
import { bandControl, bandOf, rasterOf, withCells } from './result'

const measures = {
  slope: 'slope, degrees',
  aspect: 'aspect, degrees from north',
  curvature: 'curvature, for each 100 m',
  'local relief': 'local relief: highest less lowest about',
  'above surroundings': 'height above the surroundings',
  hillshade: 'hillshade, 0 to 100',
} as const
type Measure = keyof typeof measures
const measureIds = Object.keys(measures) as [Measure, ...Measure[]]

const TerrainSettings = z.object({
  band: z.number().int().min(1),
  measure: z.enum(measureIds),
  /** How far surroundings reach, km. */
  reachKm: z.number().min(0.001).max(5000),
  /** Where light comes from, degrees from north, and how high it stands. */
  azimuthDeg: z.number().min(0).max(360),
  altitudeDeg: z.number().min(1).max(90),
  exaggeration: z.number().min(0.01).max(1000),
})
type TerrainSettings = z.infer<typeof TerrainSettings>

const lit = { name: 'measure', is: ['hillshade'] }

/**
 * What a surface is like at each cell, reckoned on the ground: slope and aspect (Horn 1981), curvature (the sum of the
 * second derivatives with its sign turned, so that ridges are above 0), relief, light.
 */
export const terrain: StepKind<TerrainSettings> = {
  label: 'Slope, aspect, light',
  about: 'cells',
  settings: TerrainSettings,
  form: [
    bandControl,
    {
      name: 'measure',
      label: 'Into',
      control: 'choice',
      options: measureIds.map((value) => ({ value, label: measures[value] })),
    },
    {
      name: 'reachKm',
      label: 'Surroundings',
      control: 'number',
      unit: 'km',
      min: 0.001,
      max: 5000,
      step: 1,
      when: { name: 'measure', is: ['local relief', 'above surroundings'] },
    },
    {
      name: 'azimuthDeg',
      label: 'Light from',
      control: 'number',
      unit: '°',
      min: 0,
      max: 360,
      step: 5,
      when: lit,
    },
    {
      name: 'altitudeDeg',
      label: 'Light stands',
      control: 'number',
      unit: '° high',
      min: 1,
      max: 90,
      step: 5,
      when: lit,
    },
    {
      name: 'exaggeration',
      label: 'Heights',
      control: 'number',
      unit: 'times',
      min: 0.01,
      max: 1000,
      step: 0.5,
      when: lit,
    },
  ],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: ({ dataset: { raster } }) => ({
    band: 1,
    measure: 'slope',
    reachKm: raster ? Number(((8 * cellMetres(raster)) / 1000).toPrecision(1)) : 5,
    azimuthDeg: 315,
    altitudeDeg: 45,
    exaggeration: 1,
  }),
  needs: () => [],
  words: ({ measure }) => measures[measure],
  apply(settings, from, _, work) {
    const raster = rasterOf(from)
    const made = madeOf(raster, bandOf(raster, settings.band), settings)
    for (let next = made.next(); ; next = made.next()) {
      if (next.done) return withCells(from, [next.value], work)
      work.tell(next.value)
    }
  },
}

function* madeOf(raster: Raster, values: Float32Array, settings: TerrainSettings): Steps<Float32Array> {
  const { columns, rows } = raster
  const grid = { values, columns, rows }
  const { measure, reachKm } = settings
  const reach = (reachKm * 1000) / cellMetres(raster)
  if (measure === 'local relief') {
    const { low, high } = extremesAround(grid, Math.max(1, Math.round(reach)))
    return high.map((value, i) => value - low[i])
  }
  if (measure === 'above surroundings') {
    const around = yield* blurredCells({ ...grid, values: Float64Array.from(values) }, reach)
    return values.map((value, i) => value - around[i])
  }
  const steps = groundStepsOf(raster)
  if (measure === 'curvature') return curvature(grid, steps)
  if (measure === 'hillshade') return hillshade(grid, steps, settings).map((light) => 100 * light)
  yield 0.1
  const { right, up } = gradientsOf(grid, steps, 'north')
  yield 0.7
  if (measure === 'slope') return right.map((x, i) => slopeDeg(x, up[i]))
  return right.map((x, i) => aspectDeg(x, up[i]))
}

/** Minus the sum of the second differences along rows and columns for a square metre, times a hundred. */
function curvature(
  { values, columns, rows }: { values: Float32Array; columns: number; rows: number },
  steps: GroundSteps,
): Float32Array {
  const out = new Float32Array(values.length).fill(NaN)
  const step = new Float64Array(4)
  for (let r = 1; r < rows - 1; r++)
    for (let c = 1; c < columns - 1; c++) {
      const i = r * columns + c
      if (c % 8 === 1) steps(c, r, step)
      const across = (values[i - 1] - 2 * values[i] + values[i + 1]) / (step[0] ** 2 + step[1] ** 2)
      const down = (values[i - columns] - 2 * values[i] + values[i + columns]) / (step[2] ** 2 + step[3] ** 2)
      out[i] = -100 * (across + down)
    }
  return out
}
