import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import type { FieldMeta } from '../../field-meta'
import { finestLevel } from '../../raster-cells'
import { cellMetres } from '../../raster-ground'
import { statisticsInAreas, type ZoneStatistics } from '../../raster-zones'
import { freeKey, otherOf, StepProblem, type Preparing, type StepKind } from '../step'
import { bandControl, bandOf, rasterOf } from './result'

const InAreasSettings = z.object({
  datasetId: z.string(),
  band: z.number().int().min(1),
  figures: z.enum(['mean', 'mean, least and most', 'sum', 'shares', 'all']),
  /** What the fields are called. */
  label: z.string(),
  unit: z.string(),
})
type Wanted = z.infer<typeof InAreasSettings>['figures']
type Figure = 'mean' | 'sum' | 'min' | 'max' | 'shares'

const wanted: Record<Wanted, Figure[]> = {
  mean: ['mean'],
  'mean, least and most': ['mean', 'min', 'max'],
  sum: ['sum'],
  shares: ['shares'],
  all: ['mean', 'sum', 'min', 'max'],
}
/** More values than this are no categories. */
const mostValues = 40

/** What lies of a raster in each area, every cell counted by the part of it that the area covers. */
export const inAreas: StepKind<z.infer<typeof InAreasSettings>> = {
  label: 'Statistics of a raster',
  about: 'shapes',
  settings: InAreasSettings,
  form: [
    { name: 'datasetId', label: 'Of', control: 'dataset', geometry: 'raster' },
    bandControl,
    {
      name: 'figures',
      label: 'Fields',
      control: 'choice',
      options: [
        { value: 'mean', label: 'mean' },
        { value: 'mean, least and most', label: 'mean, least and most' },
        { value: 'sum', label: 'sum of covered parts' },
        { value: 'shares', label: 'share of each value' },
        { value: 'all', label: 'mean, sum, least and most' },
      ],
    },
    { name: 'label', label: 'Called', control: 'text' },
    { name: 'unit', label: 'Unit', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'areas',
  initial: (_, others) => ({
    datasetId: others.find(({ dataset }) => dataset.raster)?.datasetId ?? '',
    band: 1,
    figures: 'mean',
    label: 'Height',
    unit: 'm',
  }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId, figures }, name) => `${figures} of ${name(datasetId)}`,
  apply({ datasetId, band, figures, label, unit }, from, others, work) {
    const raster = rasterOf(otherOf(others, datasetId))
    const { geometry } = from.dataset
    if (geometry.kind !== 'areas') throw new StepProblem('It takes areas.')
    const values = wanted[figures].includes('shares') ? valuesIn(bandOf(raster, band)) : []
    bandOf(raster, band)
    const steps = statisticsInAreas(raster, geometry, { band: band - 1, values })
    let next = steps.next()
    for (; !next.done; next = steps.next()) work.tell(next.value)
    const found = next.value
    if (raster.fine && finestLevel(raster) > 0)
      work.remark(
        `Reckoned on cells of ${formatNumber(cellMetres(raster), 0)} m: finer ones cannot be read here.`,
      )
    if (found.left) work.remark(`${areasWord(found.left, 'goes', 'go')} round a pole: no figures there.`)
    const [none, part] = [0, 1].map((most) =>
      found.covered.reduce((n, c) => n + Number(most ? c > 0 && c < 0.995 : c === 0), 0),
    )
    if (none) work.remark(`${areasWord(none, 'has', 'have')} no cell with a value.`)
    if (part)
      work.remark(`${areasWord(part, 'lies', 'lie')} on cells without a value in part; what is there counts.`)
    return withFigures(from, found, { figures: wanted[figures], values, label, unit })
  },
}

const areasWord = (count: number, one: string, many: string): string =>
  `${formatNumber(count, 0)} ${count === 1 ? `area ${one}` : `areas ${many}`}`

/** @throws StepProblem where there are too many to be categories */
function valuesIn(cells: Float32Array): number[] {
  const found = new Set<number>()
  for (const value of cells) {
    if (value === value) found.add(value)
    if (found.size > mostValues)
      throw new StepProblem(
        `It has more than ${mostValues} values: shares are for categories. Reclassify the raster first.`,
      )
  }
  return [...found].sort((a, b) => a - b)
}

const words: Record<Exclude<Figure, 'shares'>, [key: string, label: string]> = {
  mean: ['mean', 'mean'],
  sum: ['sum', 'sum'],
  min: ['least', 'least'],
  max: ['most', 'most'],
}

function withFigures(
  from: Preparing,
  found: ZoneStatistics,
  { figures, values, label, unit }: { figures: Figure[]; values: number[]; label: string; unit: string },
): Preparing {
  const fields = [...from.dataset.fields]
  const origins = new Map(from.origins)
  const made = new Map(from.made)
  const stem =
    label
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '_') || 'raster'
  const add = (key: string, column: Float64Array, meta: FieldMeta): void => {
    const free = freeKey(fields, `${stem}_${key}`)
    fields.push({ key: free, column: { kind: 'number', values: column } })
    origins.set(free, { datasetId: from.datasetId, key: free })
    made.set(free, meta)
  }
  for (const figure of figures)
    if (figure === 'shares')
      values.forEach((value, k) =>
        add(
          `share_${value}`,
          found.shares[k].map((share) => 100 * share),
          {
            label: `${label}, share of ${value}`,
            unit: '%',
            role: 'share',
          },
        ),
      )
    else
      add(words[figure][0], found[figure], {
        label: `${label}, ${words[figure][1]}`,
        unit,
        role: figure === 'sum' ? 'total' : 'index',
      })
  return { ...from, dataset: { ...from.dataset, fields }, origins, made }
}
