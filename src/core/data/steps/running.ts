import { z } from 'zod'
import { numbersOf } from '../column'
import { fieldOf } from '../dataset'
import { proposeMeta } from '../field-meta'
import { seriesOf } from '../series'
import { keyFrom } from './derive'
import { freeKey, StepProblem, type StepKind } from './step'

const figures = ['change', 'change-percent', 'index', 'share', 'mean'] as const

const RunningSettings = z.object({
  /** One field of a series of years. */
  field: z.string(),
  figure: z.enum(figures),
  /** The year that is 100, of an index. */
  base: z.number().int().min(0).max(9999),
  /** How many years a mean is taken over. */
  years: z.number().int().min(2).max(50),
})
type RunningSettings = z.infer<typeof RunningSettings>

const labels: Record<(typeof figures)[number], string> = {
  change: 'Change on the year before',
  'change-percent': 'Change on the year before, %',
  index: 'Index to a base year',
  share: 'Share of all rows, %',
  mean: 'Mean over years',
}

/**
 * Running figures: for every year of a series a new field with its change on the year before, its index to a base
 * year (= 100), its share of the sum of all rows, or its mean over the last years.
 */
export const running: StepKind<RunningSettings> = {
  label: 'Running figures',
  about: 'fields',
  settings: RunningSettings,
  form: [
    { name: 'field', label: 'Series of', control: 'field', kind: 'number' },
    {
      name: 'figure',
      label: 'Figure',
      control: 'choice',
      options: figures.map((value) => ({ value, label: labels[value] })),
    },
    {
      name: 'base',
      label: 'Base year',
      control: 'number',
      unit: '',
      min: 0,
      max: 9999,
      step: 1,
      when: { name: 'figure', is: ['index'] },
    },
    {
      name: 'years',
      label: 'Over',
      control: 'number',
      unit: 'years',
      min: 2,
      max: 50,
      step: 1,
      when: { name: 'figure', is: ['mean'] },
    },
  ],
  accepts: ({ dataset }) => dataset.fields.some(({ key }) => seriesOf(dataset.fields, key) !== null),
  initial: ({ dataset }) => {
    const first = dataset.fields.find(({ key }) => seriesOf(dataset.fields, key))?.key ?? ''
    return {
      field: first,
      figure: 'change-percent',
      base: seriesOf(dataset.fields, first)?.years[0].year ?? 2000,
      years: 3,
    }
  },
  needs: () => [],
  words: ({ figure, field }, name) => `${labels[figure].toLowerCase()} of ${name('', field)}`,
  apply({ field, figure, base, years: span }, from) {
    const { dataset } = from
    const series = seriesOf(dataset.fields, field)
    if (!series) throw new StepProblem('The field is not one year of several.')
    const columns = series.years.map(({ year, key }) => ({
      year,
      values: numbersOf(
        fieldOf(dataset, key) ?? { kind: 'number', values: new Float64Array(dataset.rowCount).fill(NaN) },
      ),
    }))
    const start = columns.find(({ year }) => year === base)
    if (figure === 'index' && !start)
      throw new StepProblem(
        `The series has no year ${base}. It has ${columns.map(({ year }) => year).join(', ')}.`,
      )
    const fields = [...dataset.fields]
    const made = new Map(from.made)
    columns.forEach(({ year, values }, i) => {
      const before = columns[i - 1]?.year === year - 1 ? columns[i - 1].values : null
      if (figure.startsWith('change') && !before) return
      const sum = values.reduce((all, v) => all + (Number.isNaN(v) ? 0 : v), 0)
      const last = columns.slice(0, i + 1).filter((one) => one.year > year - span)
      if (figure === 'mean' && last.length < span) return
      const out = values.map((v, row) => {
        switch (figure) {
          case 'change':
            return v - (before?.[row] ?? NaN)
          case 'change-percent':
            return 100 * (v / (before?.[row] ?? NaN) - 1)
          case 'index':
            return (100 * v) / (start?.values[row] ?? NaN)
          case 'share':
            return (100 * v) / sum
          default:
            return last.reduce((all, one) => all + one.values[row], 0) / last.length
        }
      })
      const label = `${series.label}, ${words(figure, base, span)} ${year}`
      const key = freeKey(fields, keyFrom(label))
      const column = { kind: 'number' as const, values: out.map((v) => (Number.isFinite(v) ? v : NaN)) }
      fields.push({ key, column })
      made.set(key, {
        ...proposeMeta(key, column),
        label,
        unit: figure === 'change-percent' || figure === 'share' ? '%' : '',
        role: roles[figure],
      })
    })
    return { ...from, dataset: { ...dataset, fields }, made }
  },
}

const roles = {
  change: 'index',
  'change-percent': 'rate',
  index: 'index',
  share: 'share',
  mean: 'index',
} as const

const words = (figure: RunningSettings['figure'], base: number, span: number): string =>
  ({
    change: 'change',
    'change-percent': 'change %',
    index: `index (${base} = 100)`,
    share: 'share',
    mean: `mean of ${span} years`,
  })[figure]
