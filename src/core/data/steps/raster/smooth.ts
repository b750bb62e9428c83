import { z } from 'zod'
import { blurredCells } from '@/core/grid/blur'
import { formatNumber } from '@/core/classify/labels'
import { cellMetres } from '../../raster-ground'
import type { StepKind } from '../step'
import { bandOf, rasterOf, withCells } from './result'

const SmoothSettings = z.object({
  /** Standard deviation of the Gaussian, km. */
  sigmaKm: z.number().min(0.0001).max(5000),
})

/** All bands smoothed by a Gaussian; cells without a value stay without one and pull nothing down. */
export const smooth: StepKind<z.infer<typeof SmoothSettings>> = {
  label: 'Smooth',
  about: 'cells',
  settings: SmoothSettings,
  form: [
    {
      name: 'sigmaKm',
      label: 'By',
      control: 'number',
      unit: 'km (standard deviation)',
      min: 0.0001,
      max: 5000,
      step: 1,
    },
  ],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: ({ dataset: { raster } }) => ({
    sigmaKm: raster ? Number(((2 * cellMetres(raster)) / 1000).toPrecision(1)) : 1,
  }),
  needs: () => [],
  words: ({ sigmaKm }) => `by ${formatNumber(sigmaKm, sigmaKm < 1 ? 3 : 1)} km`,
  apply({ sigmaKm }, from, _, work) {
    const raster = rasterOf(from)
    const sigma = (sigmaKm * 1000) / cellMetres(raster)
    const bands = Array.from({ length: raster.bands }, (_, b) => {
      const values = Float64Array.from(bandOf(raster, b + 1))
      const steps = blurredCells({ values, columns: raster.columns, rows: raster.rows }, sigma)
      for (let next = steps.next(); ; next = steps.next()) {
        if (next.done) return Float32Array.from(next.value)
        work.tell((b + next.value) / raster.bands)
      }
    })
    return withCells(from, bands, work)
  },
}
