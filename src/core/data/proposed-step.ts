import type { LooseMatch } from './join'
import type { Prepared } from './prepare'
import type { Proposal } from './proposals'
import { stepKindOf, type PrepStep } from './steps/registry'

/** A prep step of a type as it begins for a dataset, with some settings given. */
export function newStep(
  into: Prepared,
  all: Map<string, Prepared>,
  { id, type, settings }: { id: string; type: PrepStep['type']; settings: object },
): PrepStep {
  const others = [...all.values()].filter(({ entry }) => entry.id !== into.entry.id)
  const initial = stepKindOf(type).initial(into, others) as object
  return { type, id, on: true, settings: { ...initial, ...settings } } as PrepStep
}

/** The settings of a join that is proposed; of the ways in which keys count as the same those that are accepted. */
export const joinSettings = (
  { table, key, otherKey, mended, ways }: Extract<Proposal, { does: 'join' }>,
  accepts: LooseMatch[] = ways.map(({ kind }) => kind),
) => ({ datasetId: table, keys: [{ key, otherKey }], mended, accepts })
