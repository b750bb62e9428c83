import type { KindData } from '../kind'
import type { RasterSettings } from './spec'

/** Red, green and blue (0 to 255) along a ramp, low to high. */
type Ramp = [number, number, number][]

const greys: Ramp = [
  [24, 24, 24],
  [248, 248, 248],
]
/** From lowland green over ochre and brown to snow. */
const heights: Ramp = [
  [122, 163, 128],
  [176, 193, 140],
  [223, 212, 164],
  [200, 164, 118],
  [160, 122, 96],
  [242, 240, 238],
]

export type RasterPlan = { low: number; high: number; ramp: Ramp } | null

/** Where the values of a band lie, and the colour of each; null where there is no such band. */
export function planRaster(
  { look, band, low, high, reversed }: RasterSettings,
  { dataset: { raster } }: KindData,
): RasterPlan {
  if (!raster || band >= raster.bands) return null
  const cells = raster.columns * raster.rows
  let [least, most] = [Infinity, -Infinity]
  for (let i = band * cells; i < (band + 1) * cells; i++) {
    const value = raster.values[i]
    if (value < least) least = value
    if (value > most) most = value
  }
  if (!(most >= least)) return null
  const from = low ?? least
  const to = high ?? most
  const ramp = look === 'heights' ? heights : greys
  return { low: from, high: to, ramp: reversed ? [...ramp].reverse() : ramp }
}

/** The colour of a value, red, green and blue from 0 to 255. */
export const colourOfValue = (
  { low, high, ramp }: NonNullable<RasterPlan>,
  value: number,
): [number, number, number] => along(ramp, high > low ? (value - low) / (high - low) : 0)

function along(ramp: Ramp, share: number): [number, number, number] {
  const place = Math.min(1, Math.max(0, share)) * (ramp.length - 1)
  const i = Math.min(ramp.length - 2, Math.floor(place))
  return [0, 1, 2].map((c) => Math.round(ramp[i][c] + (ramp[i + 1][c] - ramp[i][c]) * (place - i))) as [
    number,
    number,
    number,
  ]
}
