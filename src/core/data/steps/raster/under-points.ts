import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import type { Raster } from '../../raster'
import { cellsOf, finestLevel, levelHeld, sizeOf } from '../../raster-cells'
import { cellPlace } from '../../raster-ground'
import { freeKey, otherOf, StepProblem, type StepKind } from '../step'
import { bandControl, bandOf, rasterOf } from './result'

const UnderPointsSettings = z.object({
  datasetId: z.string(),
  band: z.number().int().min(1),
  /** Of the cell that a point lies in, or between the middles of the four about it. */
  way: z.enum(['cell', 'between']),
  label: z.string(),
  unit: z.string(),
})

/** The value of a raster under each point; the mean where a row has several. */
export const underPoints: StepKind<z.infer<typeof UnderPointsSettings>> = {
  label: 'Values under points',
  about: 'shapes',
  settings: UnderPointsSettings,
  form: [
    { name: 'datasetId', label: 'Of', control: 'dataset', geometry: 'raster' },
    bandControl,
    {
      name: 'way',
      label: 'Taken',
      control: 'choice',
      options: [
        { value: 'cell', label: 'from the cell' },
        { value: 'between', label: 'between cells' },
      ],
    },
    { name: 'label', label: 'Called', control: 'text' },
    { name: 'unit', label: 'Unit', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'points',
  initial: (_, others) => ({
    datasetId: others.find(({ dataset }) => dataset.raster)?.datasetId ?? '',
    band: 1,
    way: 'between',
    label: 'Height',
    unit: 'm',
  }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `of ${name(datasetId)}`,
  apply({ datasetId, band, way, label, unit }, from, others, work) {
    const raster = rasterOf(otherOf(others, datasetId))
    const { geometry, rowCount } = from.dataset
    if (geometry.kind !== 'points') throw new StepProblem('It takes points.')
    bandOf(raster, band)
    const value = valueUnder(raster, band - 1, way)
    const values = new Float64Array(rowCount)
    for (let f = 0; f < rowCount; f++) {
      if (f % 5000 === 0) work.tell(f / rowCount)
      let [sum, count] = [0, 0]
      for (let p = geometry.featureStarts[f]; p < geometry.featureStarts[f + 1]; p++) {
        const here = value(geometry.coords[2 * p], geometry.coords[2 * p + 1])
        if (here !== here) continue
        sum += here
        count++
      }
      values[f] = count ? sum / count : NaN
    }
    const without = values.reduce((n, v) => n + Number(v !== v), 0)
    if (without)
      work.remark(
        `${formatNumber(without, 0)} ${without === 1 ? 'point has' : 'points have'} no value under them.`,
      )
    const key = freeKey(
      from.dataset.fields,
      label
        .trim()
        .toLowerCase()
        .replace(/[^\p{L}\p{N}]+/gu, '_') || 'value',
    )
    return {
      ...from,
      dataset: {
        ...from.dataset,
        fields: [...from.dataset.fields, { key, column: { kind: 'number', values } }],
      },
      origins: new Map(from.origins).set(key, { datasetId: from.datasetId, key }),
      made: new Map(from.made).set(key, { label, unit, role: 'index' }),
    }
  },
}

/** The value at a place, of the finest cells that can be read. */
function valueUnder(
  raster: Raster,
  band: number,
  way: 'cell' | 'between',
): (lon: number, lat: number) => number {
  const place = cellPlace(raster)
  const level = finestLevel(raster)
  const scale = 2 ** (levelHeld(raster) - level)
  const whole = sizeOf(raster, level)
  const cell = (column: number, row: number): number => {
    const [c, r] = [
      Math.min(whole.columns - 1, Math.max(0, column)),
      Math.min(whole.rows - 1, Math.max(0, row)),
    ]
    const window = { left: c / scale, top: r / scale, right: (c + 1) / scale, bottom: (r + 1) / scale }
    return cellsOf(raster, { band, level, window }).values[0] ?? NaN
  }
  return (lon, lat) => {
    const held = place(lon, lat)
    const [x, y] = [held[0] * scale, held[1] * scale]
    if (!(x >= 0 && y >= 0 && x <= whole.columns && y <= whole.rows)) return NaN
    if (way === 'cell') return cell(Math.floor(x), Math.floor(y))
    const [i, j] = [Math.floor(x - 0.5), Math.floor(y - 0.5)]
    const [u, v] = [x - 0.5 - i, y - 0.5 - j]
    return (
      (cell(i, j) * (1 - u) + cell(i + 1, j) * u) * (1 - v) +
      (cell(i, j + 1) * (1 - u) + cell(i + 1, j + 1) * u) * v
    )
  }
}
