'use client'
import { ArrowRight, Columns3, Crosshair, GitMerge, Layers, Lightbulb, Spline } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useMemo } from 'react'
import type { Prepared } from '@/core/data/prepare'
import { proposalsFor, type Proposal } from '@/core/data/proposals'
import { stepKindOf, type PrepStep } from '@/core/data/steps/registry'
import { Button } from '../kit/controls'
import { layerNeeds } from '@/core/map/layer-plan'
import { addLayer, mapField } from '../map/edit-map'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'

/** What could be done next with a dataset, each with the button that does it. */
export function NextSteps({ prepared, all }: { prepared: Prepared; all: Map<string, Prepared> }) {
  const { maps } = useDocument()
  const proposals = useMemo(() => {
    const onMaps = new Set(maps.flatMap((map) => map.layers.flatMap(layerNeeds)))
    return proposalsFor(prepared, all, onMaps).filter(
      (proposal) =>
        (proposal.does !== 'map' || !onMaps.has(prepared.entry.id)) &&
        (proposal.does !== 'flows' || !onMaps.has(proposal.table)),
    )
  }, [prepared, all, maps])
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
  if (proposal.does === 'mend') {
    const [first] = Object.entries(proposal.pairs)
    const count = Object.keys(proposal.pairs).length
    return (
      <>
        <span>
          {count === 1 ? '1 key is' : `${count.toLocaleString('en-GB')} keys are`} nearly the same as in{' '}
          {name(proposal.table)}, such as “{first[0]}” and “{first[1]}”. The Join card shows all of them.
        </span>
        <Button look="primary" onClick={() => mend(proposal)}>
          <GitMerge size={14} /> {count === 1 ? 'Match it' : 'Match all of them'}
        </Button>
      </>
    )
  }
  if (proposal.does === 'spread')
    return (
      <>
        <span>
          {name(proposal.table)} has many rows for each {proposal.settings.keys[0]}: it is in long form. Wide,
          it can be joined, with a field for each {proposal.settings.names.join(' and ')}.
        </span>
        <Button
          look="primary"
          onClick={() => addStep(all, proposal.table, 'long-to-wide', proposal.settings)}
        >
          <Columns3 size={14} /> Make it wide
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
  if (proposal.does === 'flows') {
    const table = all.get(proposal.table)
    return table ? (
      <>
        <span>
          {proposal.matched.toLocaleString('en-GB')} of {proposal.of.toLocaleString('en-GB')} rows lead from
          one of {name(proposal.places)} to another.
        </span>
        <Button look="primary" onClick={() => showOnMap(table)}>
          <Spline size={14} /> Draw them as flow lines
        </Button>
      </>
    ) : null
  }
  const prepared = all.get(proposal.datasetId)
  if (proposal.does === 'show')
    return prepared ? (
      <>
        <span>{prepared.entry.name} are on no map yet.</span>
        <Button onClick={() => showOnMap(prepared)}>
          <Layers size={14} /> Put them on the map
        </Button>
      </>
    ) : null
  return prepared ? (
    <>
      <span>{prepared.fieldMeta(proposal.field).label} can go onto a map.</span>
      <Button look="primary" onClick={() => mapField(prepared, proposal.field)}>
        Map it <ArrowRight size={14} />
      </Button>
    </>
  ) : null
}

/** Puts a dataset onto the map that is open on the Map desk, or a first one, and goes there. */
function showOnMap(prepared: Prepared): void {
  const { history, selection, openDesk } = useFolio.getState()
  const { maps } = history.folio
  const map = maps.find(({ id }) => id === selection.mapId) ?? maps[0]
  addLayer(map?.id ?? null, prepared)
  openDesk('map')
}

function mend({ datasetId, stepId, pairs }: Extract<Proposal, { does: 'mend' }>): void {
  editFolio('Match near misses', (draft) => {
    const step = draft.datasets.find(({ id }) => id === datasetId)?.steps.find(({ id }) => id === stepId)
    if (step?.type === 'join') step.settings.mended = { ...step.settings.mended, ...pairs }
  })
}

function addStep(
  all: Map<string, Prepared>,
  datasetId: string,
  type: 'join' | 'count-points' | 'long-to-wide',
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
