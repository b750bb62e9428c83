'use client'
import {
  ArrowRight,
  Columns3,
  Crosshair,
  GitMerge,
  Layers,
  LayoutGrid,
  Lightbulb,
  Spline,
} from 'lucide-react'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { useEffect, useState } from 'react'
import type { LooseMatch } from '@/core/data/join'
import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import type { Proposal } from '@/core/data/proposals'
import { joinSettings, newStep } from '@/core/data/proposed-step'
import { stepKindOf, type PrepStep } from '@/core/data/steps/registry'
import { Button, Check } from '../kit/controls'
import { layerNeeds } from '@/core/map/layer-plan'
import { wayWords } from './steps/match-words'
import { openBecoming } from '../map/become/become-dialog'
import { addLayer, mapField } from '../map/edit-map'
import { ask } from '@/workers/client'
import { editFolio, folioNow, useDocument, useFolio } from '../shell/folio-store'

/** What can be done next, found beside the interface; null until it is there for the rows as they are now. */
function useProposals(prepared: Prepared, all: Map<string, Prepared>): Proposal[] | null {
  const { maps } = useDocument()
  const [found, setFound] = useState<{
    id: string
    all: Map<string, Prepared>
    proposals: Proposal[]
  } | null>(null)
  const { id } = prepared.entry
  const onMaps = JSON.stringify([...new Set(maps.flatMap((map) => map.layers.flatMap(layerNeeds)))].sort())
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.nextFor(id, JSON.parse(onMaps) as string[])).then(
      (proposals) => here && setFound({ id, all, proposals }),
      () => undefined,
    )
    return () => void (here = false)
  }, [id, all, onMaps])
  // What was found for other rows must not be clicked on.
  return found?.all === all && found.id === id ? found.proposals : null
}

/** What could be done next with a dataset, each with the button that does it. */
export function NextSteps({ prepared, all }: { prepared: Prepared; all: Map<string, Prepared> }) {
  const found = useProposals(prepared, all)
  const proposals = found ?? []
  const form = formOf(prepared.dataset)
  const isAlone = form === 'none' && found?.length === 0
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
        {isAlone && (
          <li className="text-xs">
            A table has no places of its own. Bring in boundaries or points that share its codes or names, or
            say in its source card which fields hold coordinates.
          </li>
        )}
        {form !== 'none' && (
          <li className="flex flex-col gap-1 text-xs">
            <span>Small maps of {prepared.entry.name} show what is worth drawing.</span>
            <Button
              look={proposals.length ? 'plain' : 'primary'}
              onClick={() => openBecoming(prepared.entry.id)}
            >
              <LayoutGrid size={14} /> See what it can become
            </Button>
          </li>
        )}
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
    return <JoinProposal proposal={proposal} all={all} here={current === proposal.into} name={name} />
  if (proposal.does === 'mend')
    return (
      <>
        <span>
          {proposal.count.toLocaleString('en-GB')} more {proposal.count === 1 ? 'key' : 'keys'} of{' '}
          {name(proposal.table)} could match ({wayWords[proposal.kind]}), such as “{proposal.example[0]}” and
          “{proposal.example[1]}”.
        </span>
        <Button look="primary" onClick={() => accept(proposal)}>
          <GitMerge size={14} /> Match them
        </Button>
      </>
    )
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

function accept({ datasetId, stepId, kind }: Extract<Proposal, { does: 'mend' }>): void {
  editFolio('Match more keys', (draft) => {
    const step = draft.datasets.find(({ id }) => id === datasetId)?.steps.find(({ id }) => id === stepId)
    if (step?.type === 'join' && !step.settings.accepts.includes(kind)) step.settings.accepts.push(kind)
  })
}

/** Two datasets with keys in common: how many match, in which ways, each taken or left, and the join itself. */
function JoinProposal({
  proposal,
  all,
  here,
  name,
}: {
  proposal: Extract<Proposal, { does: 'join' }>
  all: Map<string, Prepared>
  here: boolean
  name: (id: string) => string
}) {
  const { into, table, key, otherKey, matched, of, ways } = proposal
  const [refused, setRefused] = useState<LooseMatch[]>([])
  const without = ways.reduce((sum, { kind, count }) => sum + (refused.includes(kind) ? count : 0), 0)
  const fieldName = (id: string, field: string) => all.get(id)?.fieldMeta(field).label ?? field
  return (
    <>
      <span>
        {name(table)} and {name(into)} belong together by “{fieldName(into, key)}” and “
        {fieldName(table, otherKey)}”: {(matched - without).toLocaleString('en-GB')} of{' '}
        {of.toLocaleString('en-GB')} match
        {matched - without < of ? `, ${(of - matched + without).toLocaleString('en-GB')} do not` : ''}.
      </span>
      {ways.map(({ kind, count, example }) => (
        <span key={kind} title={`Such as “${example[0]}” and “${example[1]}”`}>
          <Check
            label={`${count.toLocaleString('en-GB')} ${wayWords[kind]}`}
            checked={!refused.includes(kind)}
            onChange={(on) => setRefused(on ? refused.filter((one) => one !== kind) : [...refused, kind])}
          />
        </span>
      ))}
      <Button
        look="primary"
        onClick={() =>
          addStep(
            all,
            into,
            'join',
            joinSettings(
              proposal,
              ways.flatMap(({ kind }) => (refused.includes(kind) ? [] : [kind])),
            ),
          )
        }
      >
        <GitMerge size={14} /> {here ? `Join ${name(table)}` : `Join to ${name(into)}`}
      </Button>
    </>
  )
}

function addStep(
  all: Map<string, Prepared>,
  datasetId: string,
  type: 'join' | 'count-points' | 'long-to-wide',
  settings: object,
): void {
  const prepared = all.get(datasetId)
  if (!prepared) return
  const step = newStep(prepared, all, { id: nanoid(8), type, settings })
  editFolio(
    `${stepKindOf(type).label}: new step`,
    (draft) => void draft.datasets.find(({ id }) => id === datasetId)?.steps.push(step as Draft<PrepStep>),
  )
  useFolio.getState().select({ datasetId })
}
