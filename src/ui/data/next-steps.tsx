'use client'
import { ArrowRight, Crosshair, GitMerge, Lightbulb } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import type { Prepared } from '@/core/data/prepare'
import { proposalsFor, type Proposal } from '@/core/data/proposals'
import { stepKindOf, type PrepStep } from '@/core/data/steps/registry'
import { Button } from '../kit/controls'
import { mapField } from '../map/edit-map'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'

/** What could be done next with a dataset, each with the button that does it. */
export function NextSteps({ prepared, all }: { prepared: Prepared; all: Map<string, Prepared> }) {
  const mapped = useDocument().maps.some((map) =>
    map.layers.some((layer) => layer.datasetId === prepared.entry.id),
  )
  const proposals = useMemo(
    () => proposalsFor(prepared, all).filter(({ does }) => does !== 'map' || !mapped),
    [prepared, all, mapped],
  )
  if (!proposals.length) return null
  return (
    <section className="border-b border-line bg-base-200 px-3 py-2.5" aria-label="What to do next">
      <h3 className="mb-1.5 flex items-center gap-1.5 font-semibold">
        <Lightbulb size={14} aria-hidden /> Next
      </h3>
      <ul className="flex flex-col gap-2">
        {proposals.map((proposal, i) => (
          <li key={i} className="flex flex-col gap-1 text-xs">
            <Words proposal={proposal} all={all} current={prepared.entry.id} />
          </li>
        ))}
      </ul>
    </section>
  )
}

function Words({
  proposal,
  all,
  current,
}: {
  proposal: Proposal
  all: Map<string, Prepared>
  current: string
}) {
  const name = (id: string) => all.get(id)?.entry.name ?? ''
  if (proposal.does === 'join')
    return (
      <>
        <span>
          {name(proposal.table)} and {name(proposal.into)} share their codes:{' '}
          {proposal.matched.toLocaleString('en-GB')} of {proposal.of.toLocaleString('en-GB')} match.
        </span>
        <Button
          look="primary"
          onClick={() =>
            addStep(all, proposal.into, 'join', {
              datasetId: proposal.table,
              keys: [{ key: proposal.key, otherKey: proposal.otherKey }],
            })
          }
        >
          <GitMerge size={14} />{' '}
          {current === proposal.into ? `Join ${name(proposal.table)}` : `Join to ${name(proposal.into)}`}
        </Button>
      </>
    )
  if (proposal.does === 'count')
    return (
      <>
        <span>
          {name(proposal.points)} can be counted in {name(proposal.areas)}.
        </span>
        <Button onClick={() => addStep(all, proposal.areas, 'count-points', { datasetId: proposal.points })}>
          <Crosshair size={14} /> Count them there
        </Button>
      </>
    )
  const prepared = all.get(proposal.datasetId)
  return prepared ? (
    <>
      <span>{prepared.fieldMeta(proposal.field).label} can go onto a map.</span>
      <Button look="primary" onClick={() => mapField(prepared, proposal.field)}>
        Map it <ArrowRight size={14} />
      </Button>
    </>
  ) : null
}

function addStep(
  all: Map<string, Prepared>,
  datasetId: string,
  type: 'join' | 'count-points',
  settings: object,
): void {
  const prepared = all.get(datasetId)
  if (!prepared) return
  const kind = stepKindOf(type)
  const initial = kind.initial(
    prepared,
    [...all.values()].filter((other) => other.entry.id !== datasetId),
  ) as object
  editFolio(
    `${kind.label}: new step`,
    (draft) =>
      void draft.datasets
        .find((d) => d.id === datasetId)
        ?.steps.push({
          type,
          id: nanoid(8),
          on: true,
          settings: { ...initial, ...settings },
        } as PrepStep),
  )
  useFolio.getState().select({ datasetId })
}
