import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import { cellsInAreas } from '../../raster-zones'
import { otherOf, StepProblem, type StepKind } from '../step'
import { bandOf, rasterOf, withCells } from './result'

const ClipCellsSettings = z.object({
  datasetId: z.string(),
  keep: z.enum(['inside', 'outside']),
})

/** Cells of which more than half lies in the areas of another dataset stay, or go. */
export const clipCells: StepKind<z.infer<typeof ClipCellsSettings>> = {
  label: 'Clip cells',
  about: 'cells',
  settings: ClipCellsSettings,
  form: [
    { name: 'datasetId', label: 'By the areas of', control: 'dataset', geometry: ['areas'] },
    {
      name: 'keep',
      label: 'Keep what lies',
      control: 'choice',
      options: [
        { value: 'inside', label: 'inside' },
        { value: 'outside', label: 'outside' },
      ],
    },
  ],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: (_, others) => ({
    datasetId: others.find(({ dataset }) => dataset.geometry.kind === 'areas')?.datasetId ?? '',
    keep: 'inside',
  }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId, keep }, name) => `${keep} ${name(datasetId)}`,
  apply({ datasetId, keep }, from, others, work) {
    const raster = rasterOf(from)
    const { geometry } = otherOf(others, datasetId).dataset
    if (geometry.kind !== 'areas') throw new StepProblem('It takes the areas of another dataset.')
    const { covered, left } = cellsInAreas(raster, geometry)
    if (left) work.remark(`${formatNumber(left, 0)} areas round a pole are not cut by.`)
    const bands = Array.from({ length: raster.bands }, (_, b) =>
      bandOf(raster, b + 1).map((value, i) => (covered[i] > 0.5 === (keep === 'inside') ? value : NaN)),
    )
    return withCells(from, bands, work, raster)
  },
}
