import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import { StepProblem, type StepKind } from '../step'
import { bandControl, bandOf, rasterOf, withCells } from './result'

const ReclassifySettings = z.object({
  band: z.number().int().min(1),
  /** Upper limits, ascending, and the number that stands for what lies under each; the last one has no limit. */
  ranges: z.array(z.object({ under: z.number().nullable(), name: z.string() })),
})
type ReclassifySettings = z.infer<typeof ReclassifySettings>

/** A number for each range of values; a name that is left empty takes the cells out. */
export const reclassify: StepKind<ReclassifySettings> = {
  label: 'Reclassify',
  about: 'cells',
  settings: ReclassifySettings,
  form: [bandControl, { name: 'ranges', label: 'Become', control: 'ranges' }],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: ({ dataset: { raster } }) => {
    let [low, high] = [Infinity, -Infinity]
    for (const value of raster?.values.subarray(0, raster.columns * raster.rows) ?? []) {
      if (value < low) low = value
      if (value > high) high = value
    }
    const middle = Number(((low + high) / 2).toPrecision(2))
    return {
      band: 1,
      ranges: [
        { under: Number.isFinite(middle) ? middle : 0, name: '1' },
        { under: null, name: '2' },
      ],
    }
  },
  needs: () => [],
  words: ({ ranges }) => `into ${ranges.length} ${ranges.length === 1 ? 'number' : 'numbers'}`,
  apply(settings, from, _, work) {
    const raster = rasterOf(from)
    const [limits, numbers] = tableOf(settings)
    let without = 0
    const cells = bandOf(raster, settings.band).map((value) => {
      if (value !== value) return NaN
      const k = limits.findIndex((limit) => value < limit)
      if (k < 0) without++
      return k < 0 ? NaN : numbers[k]
    })
    if (without) work.remark(`${formatNumber(without, 0)} cells lie above the last limit and are left out.`)
    return withCells(from, [cells], work, { ofKinds: true })
  },
}

/** @throws StepProblem where limits do not ascend, or a name is no number */
function tableOf({ ranges }: ReclassifySettings): [limits: number[], numbers: number[]] {
  if (!ranges.length) throw new StepProblem('There are no ranges.')
  const limits = ranges.map(({ under }) => under ?? Infinity)
  if (limits.some((limit, i) => i > 0 && !(limit > limits[i - 1])))
    throw new StepProblem('The limits should ascend.')
  const numbers = ranges.map(({ name }) => {
    const number = name.trim() === '' ? NaN : Number(name)
    if (name.trim() !== '' && !Number.isFinite(number))
      throw new StepProblem(`“${name}” is not a number: cells hold numbers only.`)
    return number
  })
  return [limits, numbers]
}
