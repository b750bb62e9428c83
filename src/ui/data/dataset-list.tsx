'use client'
import {
  AlertTriangle,
  Circle,
  ClipboardPaste,
  Hexagon,
  Image,
  Spline,
  Table2,
  Upload,
  X,
} from 'lucide-react'
import { useState } from 'react'
import { formOf, shapeWords } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared } from '@/core/data/prepare'
import type { LayerCard } from '@/core/data/reading'
import { importExtensions } from '@/formats/list'
import { Button, Check, ColumnHead, IconButton } from '../kit/controls'
import { useDocument, useFolio } from '../shell/folio-store'
import { useBorderChecks, type BorderCheck } from './border-checks'
import { pastedTable, type BringingIn, type Reading } from './bringing-in'
import { SystemPicker } from './system-picker'

const shapeIcons = { areas: Hexagon, points: Circle, lines: Spline, raster: Image, none: Table2 }

/** All datasets of the folio, the files on their way in, and the ways to bring in more. */
export function DatasetList({
  prepared,
  files,
  onChoose,
  onPick,
}: {
  prepared: Map<string, Prepared>
  files: BringingIn
  onChoose: () => void
  onPick: (id: string) => void
}) {
  const folio = useDocument()
  const { selection, tell } = useFolio()
  const checks = useBorderChecks()
  const paste = async () => {
    const text = await navigator.clipboard.readText().catch(() => null)
    const file = text === null ? null : pastedTable(text)
    if (file) files.bringIn([file])
    else
      tell(
        text === null
          ? 'The browser keeps its clipboard to itself; press Ctrl+V here instead.'
          : 'What was copied is not a table: it needs a row of names and cells apart by tabs.',
      )
  }
  return (
    <aside className="flex min-h-0 flex-col border-r border-line bg-base-100" aria-label="Datasets">
      <ColumnHead title="Datasets">
        <IconButton label="Paste a table" onClick={() => void paste()}>
          <ClipboardPaste size={15} />
        </IconButton>
        <IconButton label="Bring in a file" onClick={onChoose}>
          <Upload size={15} />
        </IconButton>
      </ColumnHead>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {folio.datasets.map((entry) => {
          const data = prepared.get(entry.id)?.dataset
          const kind = data ? formOf(data) : entry.geometry
          const Icon = shapeIcons[kind]
          const on = entry.id === selection.datasetId
          return (
            <li key={entry.id}>
              <button
                type="button"
                aria-current={on}
                onClick={() => onPick(entry.id)}
                className={`flex w-full gap-2.5 border-b border-l-3 border-line py-2 pr-3 pl-2.5 text-left ${on ? 'border-l-primary bg-tint' : 'border-l-transparent hover:bg-base-200'}`}
              >
                <Icon size={15} className="mt-0.5 shrink-0" aria-hidden />
                <span className="min-w-0 flex-1">
                  <span className="block truncate font-semibold">{entry.name}</span>
                  <span className="block text-xs text-muted">
                    {data
                      ? `${data.rowCount.toLocaleString('en-GB')} ${shapeWords[kind][data.rowCount === 1 ? 0 : 1]} · ${data.fields.length} ${data.fields.length === 1 ? 'field' : 'fields'}`
                      : 'loading…'}
                  </span>
                </span>
                {wrong(entry, prepared.get(entry.id)) && (
                  <AlertTriangle
                    size={14}
                    className="mt-0.5 shrink-0 text-caution"
                    aria-label={wrong(entry, prepared.get(entry.id)) ?? ''}
                  />
                )}
              </button>
            </li>
          )
        })}
      </ul>
      {files.readings.map((reading) => (
        <ReadingCard key={reading.id} reading={reading} files={files} />
      ))}
      {checks.map((check) => (
        <CheckCard
          key={check.datasetId}
          check={check}
          name={folio.datasets.find(({ id }) => id === check.datasetId)?.name ?? ''}
        />
      ))}
      <button
        type="button"
        onClick={onChoose}
        className="m-3 flex flex-col items-center gap-1 rounded border border-dashed border-muted px-2 py-4 text-center text-muted hover:border-primary hover:text-primary"
      >
        <Upload size={16} aria-hidden />
        <span>Drop files anywhere, or choose</span>
        <span className="text-xs">{importExtensions.join(' ')}</span>
      </button>
    </aside>
  )
}

/** What is wrong with a dataset, in a few words; null where nothing was found. */
function wrong({ source, steps }: DatasetEntry, prepared: Prepared | undefined): string | null {
  const failed = prepared?.reports.filter(({ problem }) => problem).length ?? 0
  if (failed) return `${failed} of ${steps.length} steps cannot be carried out`
  return source.notes.length ? `${source.notes.length} shapes to look at` : null
}

/** Borders are looked at while the work goes on. */
function CheckCard({ check, name }: { check: BorderCheck; name: string }) {
  return (
    <div className="border-t border-line px-3 py-2" role="status">
      <div className="flex items-start justify-between gap-2">
        <span className="min-w-0 text-xs">
          <span className="font-medium break-words">{name}</span>
          <span className="block text-muted">Looking for gaps and overlaps…</span>
        </span>
        <IconButton label={`Stop looking at the borders of ${name}`} onClick={() => check.abort.abort()}>
          <X size={14} />
        </IconButton>
      </div>
      <progress
        className="progress progress-primary h-1 w-full"
        value={check.share}
        aria-label={`Borders of ${name}`}
      />
    </div>
  )
}

function ReadingCard({ reading, files }: { reading: Reading; files: BringingIn }) {
  const { asks, problem } = reading
  return (
    <div className="border-t border-line px-3 py-2" role={problem ? 'alert' : 'status'}>
      <div className="flex items-start justify-between gap-2">
        <span className="min-w-0 text-xs">
          <span className="font-medium break-words">{reading.name}</span>
          <span
            className={`block break-words ${!problem || asks?.what === 'layers' ? 'text-muted' : 'text-error'}`}
          >
            {asks?.what === 'layers'
              ? 'holds several layers. Which are wanted?'
              : (problem ?? `${reading.doing}…`)}
          </span>
        </span>
        <IconButton
          label={problem ? `Put ${reading.name} aside` : `Cancel ${reading.name}`}
          onClick={() => files.putAside(reading)}
        >
          <X size={14} />
        </IconButton>
      </div>
      {asks?.what === 'system' && (
        <SystemPicker
          value="Choose the reference system"
          onPick={(crs) => files.readWith(reading, { crs })}
        />
      )}
      {asks?.what === 'layers' && (
        <LayerPicker layers={asks.layers} onPick={(layers) => files.readWith(reading, { layers })} />
      )}
      {!problem && (
        <progress
          className="progress progress-primary h-1 w-full"
          aria-label={`How much of ${reading.name} was read`}
          value={reading.share}
          max={1}
        />
      )}
    </div>
  )
}

function LayerPicker({ layers, onPick }: { layers: LayerCard[]; onPick: (names: string[]) => void }) {
  const [chosen, setChosen] = useState(() => new Set(layers.slice(0, 1).map(({ name }) => name)))
  const toggle = (name: string, on: boolean) =>
    setChosen((before) => new Set(on ? [...before, name] : [...before].filter((n) => n !== name)))
  return (
    <div className="mt-1 flex flex-col gap-1">
      <ul className="max-h-48 overflow-y-auto">
        {layers.map(({ name, rows, geometry }) => (
          <li key={name} className="flex items-center justify-between gap-2">
            <Check label={name} checked={chosen.has(name)} onChange={(on) => toggle(name, on)} />
            <span className="shrink-0 text-xs text-muted">
              {rows.toLocaleString('en-GB')} {geometry === 'table' ? 'rows' : geometry}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex gap-1">
        <Button
          look="primary"
          className="!h-6"
          disabled={!chosen.size}
          onClick={() => onPick(layers.map(({ name }) => name).filter((name) => chosen.has(name)))}
        >
          Bring in {chosen.size}
        </Button>
        {chosen.size < layers.length && (
          <Button
            className="!h-6"
            look="quiet"
            onClick={() => setChosen(new Set(layers.map(({ name }) => name)))}
          >
            Choose all
          </Button>
        )}
      </div>
    </div>
  )
}
