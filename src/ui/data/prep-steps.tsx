'use client'
import { AlertTriangle, Check as CheckIcon, FileInput, GitMerge, Plus, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { textAt } from '@/core/data/column'
import { shapeWords } from '@/core/data/dataset'
import { matchKeys, proposeKeys, type Match } from '@/core/data/join'
import { rowName, type Prepared } from '@/core/data/prepare'
import type { JoinStep } from '@/core/data/steps/join'
import { Button, Check, ColumnHead, IconButton, Row, Select } from '../kit/controls'
import { Popover } from '../kit/popover'
import { editFolio, useFolio } from '../shell/folio-store'

/** The steps that make a dataset, in order, each with what it found. */
export function PrepSteps({ prepared, all }: { prepared: Prepared; all: Map<string, Prepared> }) {
  const { entry, dataset } = prepared
  const tables = [...all.values()].filter((other) => other.entry.id !== entry.id && other.dataset.fields.length > 0)
  return (
    <section className="border-b border-line" aria-label="Prep steps">
      <ColumnHead title="Prep steps">
        <Popover label="Join a table" align="end" className="w-64" trigger={<IconButton label="Join a table" disabled={!tables.length}><Plus size={16} /></IconButton>}>
          {(close) => <NewJoin prepared={prepared} tables={tables} onDone={close} />}
        </Popover>
      </ColumnHead>
      <ol className="flex flex-col gap-2 p-3">
        <li className="rounded border border-line px-2.5 py-1.5">
          <p className="flex items-center gap-2 font-semibold">
            <FileInput size={14} aria-hidden /> Source
          </p>
          <p className="text-xs text-muted">
            {entry.source.fileName}, {dataset.rowCount.toLocaleString('en-GB')} {shapeWords[entry.geometry][1]}
          </p>
        </li>
        {entry.steps.map((step) => (
          <JoinCard key={step.id} step={step} prepared={prepared} other={all.get(step.datasetId) ?? null} />
        ))}
      </ol>
    </section>
  )
}

const sourceKeys = (prepared: Prepared) => prepared.dataset.fields.filter((field) => (prepared.origins.get(field.key)?.datasetId ?? prepared.entry.id) === prepared.entry.id)

function NewJoin({ prepared, tables, onDone }: { prepared: Prepared; tables: Prepared[]; onDone: () => void }) {
  const ranked = [...tables].sort((a, b) => Number(a.entry.geometry !== 'none') - Number(b.entry.geometry !== 'none'))
  const [otherId, setOtherId] = useState(ranked[0]?.entry.id ?? '')
  const other = tables.find((t) => t.entry.id === otherId) ?? ranked[0]
  const proposed = proposeKeys(sourceKeys(prepared), other.dataset.fields)
  const [keys, setKeys] = useState<{ key: string; otherKey: string } | null>(null)
  const chosen = keys ?? proposed ?? { key: sourceKeys(prepared)[0]?.key ?? '', otherKey: other.dataset.fields[0].key }
  const columns = [prepared.dataset.fields.find((f) => f.key === chosen.key)?.column, other.dataset.fields.find((f) => f.key === chosen.otherKey)?.column]
  const match = columns[0] && columns[1] ? matchKeys(columns[0], columns[1]) : null
  const add = () => {
    editFolio(`Join ${other.entry.name}`, (draft) => {
      draft.datasets.find((d) => d.id === prepared.entry.id)?.steps.push({ type: 'join', id: nanoid(8), on: true, datasetId: other.entry.id, ...chosen, mended: {} })
    })
    useFolio.getState().tell(`“${other.entry.name}” was joined: ${match?.matched ?? 0} of ${prepared.dataset.rowCount} matched.`, true)
    onDone()
  }
  return (
    <div className="flex flex-col gap-1.5">
      <p className="font-semibold">Join a table to {prepared.entry.name}</p>
      <Row label="Table">
        <Select label="Table" value={other.entry.id} options={ranked.map(({ entry }) => ({ value: entry.id, label: entry.name }))} onChange={(id) => { setOtherId(id); setKeys(null) }} />
      </Row>
      <Row label={prepared.entry.name}>
        <Select label={`Key in ${prepared.entry.name}`} value={chosen.key} options={sourceKeys(prepared).map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))} onChange={(key) => setKeys({ ...chosen, key })} />
      </Row>
      <Row label={other.entry.name}>
        <Select label={`Key in ${other.entry.name}`} value={chosen.otherKey} options={other.dataset.fields.map(({ key }) => ({ value: key, label: other.fieldMeta(key).label }))} onChange={(otherKey) => setKeys({ ...chosen, otherKey })} />
      </Row>
      {match && (
        <p className="text-xs text-muted">
          {match.matched} of {prepared.dataset.rowCount} match, {match.otherUnmatched.length} rows of the table stay over{match.nearMisses.length ? `, ${match.nearMisses.length} near misses` : ''}.
        </p>
      )}
      <Button look="primary" disabled={!match?.matched} onClick={add}>
        Join
      </Button>
    </div>
  )
}

/** A join with its report: what matched, what did not on either side, and near misses that can be matched by hand. */
function JoinCard({ step, prepared, other }: { step: JoinStep; prepared: Prepared; other: Prepared | null }) {
  const [unfolded, setUnfolded] = useState(false)
  const key = prepared.dataset.fields.find((f) => f.key === step.key)?.column
  const otherKey = other?.dataset.fields.find((f) => f.key === step.otherKey)?.column
  const match = key && otherKey ? matchKeys(key, otherKey, step.mended) : null
  const change = (name: string, recipe: (step: JoinStep) => void) =>
    editFolio(name, (draft) => {
      const found = draft.datasets.find((d) => d.id === prepared.entry.id)?.steps.find((s) => s.id === step.id)
      if (found) recipe(found)
    })
  const mended = Object.keys(step.mended).length
  return (
    <li className={`rounded border px-2.5 py-1.5 ${match?.unmatched.length ? 'border-caution' : 'border-line'} ${step.on ? '' : 'opacity-60'}`}>
      <div className="flex items-center justify-between">
        <button type="button" aria-expanded={unfolded} className="flex items-center gap-2 font-semibold" onClick={() => setUnfolded(!unfolded)}>
          <GitMerge size={14} aria-hidden /> Join
        </button>
        <IconButton label="Delete this join" className="!size-6" onClick={() => editFolio('Delete join', (draft) => { const entry = draft.datasets.find((d) => d.id === prepared.entry.id); if (entry) entry.steps = entry.steps.filter((s) => s.id !== step.id) })}>
          <Trash2 size={13} />
        </IconButton>
      </div>
      <p className="text-xs text-muted">
        {other?.entry.name ?? 'a table that is gone'} by <em>{prepared.fieldMeta(step.key).label}</em>
      </p>
      {match && (
        <button type="button" className="flex items-center gap-1.5 text-left text-xs hover:underline" onClick={() => setUnfolded(!unfolded)}>
          {match.unmatched.length ? <AlertTriangle size={13} className="shrink-0 text-caution" /> : <CheckIcon size={13} className="shrink-0 text-good" />}
          {match.matched} matched, {match.unmatched.length} not{mended ? `, ${mended} mended by hand` : ''}
        </button>
      )}
      {unfolded && match && other && <JoinReport match={match} prepared={prepared} other={other} step={step} onChange={change} />}
    </li>
  )
}

function JoinReport({ match, prepared, other, step, onChange }: { match: Match; prepared: Prepared; other: Prepared; step: JoinStep; onChange: (name: string, recipe: (step: JoinStep) => void) => void }) {
  const otherKey = other.dataset.fields.find((f) => f.key === step.otherKey)?.column
  return (
    <div className="mt-2 flex flex-col gap-2 border-t border-line pt-2 text-xs">
      <Check label="In use" checked={step.on} onChange={(on) => onChange(on ? 'Switch join on' : 'Switch join off', (s) => void (s.on = on))} />
      {match.nearMisses.length > 0 && (
        <div>
          <p className="font-semibold">Near misses</p>
          <ul>
            {match.nearMisses.map((miss) => (
              <li key={miss.value} className="flex items-center justify-between gap-1 py-0.5">
                <span>
                  {miss.value} ~ “{miss.otherValue}” <span className="text-muted">({miss.reason})</span>
                </span>
                <Button className="!h-6" onClick={() => onChange('Match by hand', (s) => void (s.mended[miss.value] = miss.otherValue))}>
                  Match
                </Button>
              </li>
            ))}
          </ul>
          <Button className="mt-1 w-full" onClick={() => onChange('Match near misses', (s) => { for (const miss of match.nearMisses) s.mended[miss.value] = miss.otherValue })}>
            Match all {match.nearMisses.length}
          </Button>
        </div>
      )}
      {Object.entries(step.mended).length > 0 && (
        <div>
          <p className="font-semibold">Matched by hand</p>
          <ul>
            {Object.entries(step.mended).map(([from, to]) => (
              <li key={from} className="flex items-center justify-between gap-1">
                <span>
                  {from} = “{to}”
                </span>
                <IconButton label={`Part ${from} and ${to}`} className="!size-6" onClick={() => onChange('Part', (s) => void delete s.mended[from])}>
                  <Trash2 size={12} />
                </IconButton>
              </li>
            ))}
          </ul>
        </div>
      )}
      <Unmatched title={`Without a row in ${other.entry.name}`} rows={match.unmatched.map((row) => rowName(prepared, row))} />
      <Unmatched title={`Rows of ${other.entry.name} left over`} rows={match.otherUnmatched.map((row) => (otherKey && textAt(otherKey, row)) ?? `row ${row + 1}`)} />
      {match.repeated.length > 0 && <p className="text-caution">Several rows share a key; the first is used: {match.repeated.slice(0, 5).join(', ')}</p>}
    </div>
  )
}

function Unmatched({ title, rows }: { title: string; rows: string[] }) {
  if (!rows.length) return null
  return (
    <div>
      <p className="font-semibold">
        {title} ({rows.length})
      </p>
      <p className="text-muted">{rows.slice(0, 20).join(', ')}{rows.length > 20 ? ` and ${rows.length - 20} more` : ''}</p>
    </div>
  )
}
