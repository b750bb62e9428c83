import { z } from 'zod'
import { applyJoin, JoinStep } from './join'
import type { Others, Preparing } from './step'

/** Every kind of prep step, one line each in the union and in `applyStep`. */
export const PrepStep = z.discriminatedUnion('type', [JoinStep])
export type PrepStep = z.infer<typeof PrepStep>

export function applyStep(step: PrepStep, from: Preparing, others: Others): Preparing {
  switch (step.type) {
    case 'join':
      return applyJoin(step, from, others)
  }
}
