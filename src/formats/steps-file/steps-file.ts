import { z } from 'zod'
import { PrepStep } from '@/core/data/steps/registry'
import { readOwn } from '../own-file'

const StepsFile = z.object({
  format: z.literal('keen-steps'),
  version: z.literal(1),
  steps: z.array(PrepStep).max(5000),
})

/**
 * Steps with the datasets that they draw on called otherwise: by the names of their files in a saved list, by
 * their ids in a folio. What `rename` does not know stays as it is, and the step will say so.
 */
export const withDatasets = (
  steps: PrepStep[],
  rename: (datasetId: string) => string | undefined,
): PrepStep[] =>
  steps.map((step) => {
    const settings = step.settings as Record<string, unknown>
    return typeof settings.datasetId === 'string'
      ? ({
          ...step,
          settings: { ...settings, datasetId: rename(settings.datasetId) ?? settings.datasetId },
        } as PrepStep)
      : step
  })

/** The name by which a saved list calls a dataset: that of its file, without the ending. */
export const stemOf = (fileName: string): string => fileName.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '')

/** A list of prep steps as one JSON text, to be used on another dataset. */
export const writeSteps = (steps: PrepStep[]): string =>
  JSON.stringify(StepsFile.parse({ format: 'keen-steps', version: 1, steps }), null, 2) + '\n'

/** @throws ImportError saying what is wrong with the list */
export const readSteps = (text: string, fileName: string): PrepStep[] =>
  readOwn(StepsFile, text, { none: `${fileName} is no list of prep steps` }).steps
