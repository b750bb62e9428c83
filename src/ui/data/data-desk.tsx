'use client'
import { Circle, Download, FileWarning, Hexagon, Spline, Table2, Trash2, Upload, X } from 'lucide-react'
import { useCallback, useMemo, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { shapeWords } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import type { MapView } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { featureAt } from '@/core/geo/feature-at'
import { importExtensions } from '@/formats/extensions'
import type { DatasetEntry } from '@/core/data/entry'
import { stepNeeds } from '@/core/data/steps/registry'
import { Button, ColumnHead, IconButton, Row } from '../kit/controls'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { MapWindow } from '../map/map-window'
import { mmPerPx, type SizePx } from '../map/viewing'
import { usePrepared } from '../shell/contents'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'
import { DataTable } from './data-table'
import { FieldCard } from './field-card'
import { addImported, importFile, readAnew } from './importing'
import type { ImportResult } from '@/server/imports'
import { ApiProblem } from '../shell/api'
import { saved } from '../shell/autosave'
import { PrepSteps } from './prep-steps'
import { SaveDataset, SystemPicker } from './source-form'
import { previewMap } from './preview-map'

const shapeIcons = { areas: Hexagon, points: Circle, lines: Spline, none: Table2 }

type Reading = { id: number; name: string; share: number; doing: string; problem: string | null; /** The kept file whose reference system has to be said. */ asks: string | null; abort: AbortController }

/** Bring in, look at and prepare data. A file can be dropped anywhere. */
export function DataDesk() {
  const folio = useDocument()
  const prepared = usePrepared()
  const { selection, select, tell } = useFolio()
  const [readings, setReadings] = useState<Reading[]>([])
  const [field, setField] = useState<string | null>(null)
  const [row, setRow] = useState<number | null>(null)

  const follow = async (name: string, read: (onProgress: (share: number, doing: string) => void, signal: AbortSignal) => Promise<ImportResult[]>) => {
    const reading: Reading = { id: Math.random(), name, share: 0, doing: 'Sending', problem: null, asks: null, abort: new AbortController() }
    const update = (change: Partial<Reading>) => setReadings((all) => all.map((r) => (r.id === reading.id ? { ...r, ...change } : r)))
    setReadings((all) => [...all, reading])
    try {
      const results = await read((share, doing) => update({ share, doing }), reading.abort.signal)
      editFolio(`Bring in ${name}`, (draft) => void (draft.datasets = addImported(draft as never, results).datasets as never))
      const added = useFolio.getState().history.folio.datasets.at(-1)
      if (added) select({ datasetId: added.id })
      setRow(null)
      setReadings((all) => all.filter((r) => r.id !== reading.id))
      tell(`${name} was brought in: ${results.map((r) => `${r.rowCount.toLocaleString('en-GB')} ${shapeWords[r.geometry][r.rowCount === 1 ? 0 : 1]}`).join(', ')}.`)
    } catch (error) {
      if (error instanceof DOMException) setReadings((all) => all.filter((r) => r.id !== reading.id))
      else update({ problem: error instanceof Error ? error.message : String(error), asks: error instanceof ApiProblem && error.more.asksForSystem ? String(error.more.uploadId) : null })
    }
  }
  const bringIn = (files: File[]) => Promise.all(files.map((file) => follow(file.name, (onProgress, signal) => importFile(file, onProgress, signal))))
  const readWith = (reading: Reading, crs: string) => {
    setReadings((all) => all.filter((r) => r.id !== reading.id))
    if (reading.asks) void follow(reading.name, (onProgress, signal) => readAnew(reading.asks as string, { crs }, onProgress, signal))
  }
  const drop = useDropzone({ onDrop: (files) => void bringIn(files), noClick: true, noKeyboard: true })
  const current = selection.datasetId ? (prepared.get(selection.datasetId) ?? null) : null
  const pickDataset = (id: string) => {
    select({ datasetId: id })
    setField(null)
    setRow(null)
  }

  return (
    <div {...drop.getRootProps()} className={`grid h-full grid-cols-[232px_minmax(0,1fr)_264px] ${drop.isDragActive ? 'ring-2 ring-primary ring-inset' : ''}`}>
      <input {...drop.getInputProps({ 'aria-label': 'Files to bring in', className: 'hidden', style: {} })} />
      <aside className="flex min-h-0 flex-col border-r border-line bg-base-100" aria-label="Datasets">
        <ColumnHead title="Datasets">
          <IconButton label="Bring in a file" onClick={drop.open}>
            <Upload size={15} />
          </IconButton>
        </ColumnHead>
        <ul className="min-h-0 flex-1 overflow-y-auto">
          {folio.datasets.map((entry) => {
            const data = prepared.get(entry.id)?.dataset
            const kind = data?.geometry.kind ?? entry.geometry
            const Icon = shapeIcons[kind]
            const on = entry.id === selection.datasetId
            return (
              <li key={entry.id}>
                <button type="button" aria-current={on} onClick={() => pickDataset(entry.id)} className={`flex w-full gap-2.5 border-b border-l-3 border-line py-2 pr-3 pl-2.5 text-left ${on ? 'border-l-primary bg-tint' : 'border-l-transparent hover:bg-base-200'}`}>
                  <Icon size={15} className="mt-0.5 shrink-0" aria-hidden />
                  <span className="min-w-0">
                    <span className="block truncate font-semibold">{entry.name}</span>
                    <span className="block text-xs text-muted">{data ? `${data.rowCount.toLocaleString('en-GB')} ${shapeWords[kind][data.rowCount === 1 ? 0 : 1]} · ${data.fields.length} ${data.fields.length === 1 ? 'field' : 'fields'}` : 'loading…'}</span>
                  </span>
                </button>
              </li>
            )
          })}
        </ul>
        {readings.map((reading) => (
          <div key={reading.id} className="border-t border-line px-3 py-2" role={reading.problem ? 'alert' : 'status'}>
            <div className="flex items-start justify-between gap-2">
              <span className="min-w-0 text-xs">
                <span className="font-medium">{reading.name}</span>
                <span className={`block ${reading.problem ? 'text-error' : 'text-muted'}`}>{reading.problem ?? `${reading.doing}…`}</span>
              </span>
              <IconButton
                label={reading.problem ? `Put ${reading.name} aside` : `Cancel ${reading.name}`}
                onClick={() => {
                  reading.abort.abort()
                  setReadings((all) => all.filter((r) => r.id !== reading.id))
                }}
              >
                <X size={14} />
              </IconButton>
            </div>
            {reading.asks && <SystemPicker value="Choose the reference system" onPick={(crs) => readWith(reading, crs)} />}
            {!reading.problem && <progress className="progress progress-primary h-1 w-full" value={reading.share} max={1} />}
          </div>
        ))}
        <button type="button" onClick={drop.open} className="m-3 flex flex-col items-center gap-1 rounded border border-dashed border-muted px-2 py-4 text-center text-muted hover:border-primary hover:text-primary">
          <Upload size={16} aria-hidden />
          <span>Drop files anywhere, or choose</span>
          <span className="text-xs">{importExtensions.join(' ')}</span>
        </button>
      </aside>
      {current ? (
        <Overview key={current.entry.id} prepared={current} field={field} onField={setField} row={row} onRow={setRow} />
      ) : (
        <div className="grid place-items-center">
          <div className="max-w-sm text-center">
            <FileWarning size={26} className="mx-auto text-muted" aria-hidden />
            <h2 className="mt-3 font-serif text-lg font-semibold">{folio.datasets.length ? 'Choose a dataset' : 'Bring in boundaries and a table'}</h2>
            <p className="mt-1 text-muted">Drop files anywhere on this desk: boundaries, points and lines in any open format, tables from a spreadsheet. Areas and a table with a code in common can be joined here.</p>
            <Button look="primary" className="mt-4" onClick={drop.open}>
              <Upload size={15} /> Choose files
            </Button>
          </div>
        </div>
      )}
      <aside className="flex min-h-0 flex-col overflow-y-auto border-l border-line bg-base-100" aria-label="Prep steps and field">
        {current && (
          <>
            <PrepSteps prepared={current} all={prepared} onRow={setRow} />
            <FieldCard key={field} prepared={current} field={field} onRow={setRow} />
            <DatasetForm prepared={current} />
          </>
        )}
      </aside>
    </div>
  )
}

function Overview({ prepared, field, onField, row, onRow }: { prepared: Prepared; field: string | null; onField: (key: string) => void; row: number | null; onRow: (row: number | null) => void }) {
  const map = useMemo(() => previewMap(prepared), [prepared])
  const [view, setView] = useState<MapView | null>(null)
  const onSize = useCallback(
    (size: SizePx) => {
      if (map) setView(fitMap(map, new Map([[prepared.entry.id, prepared]]), { width: size.width * mmPerPx, height: size.height * mmPerPx }, 0.06))
    },
    [map, prepared],
  )
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      {map && (
        <div className="h-[38%] min-h-40 shrink-0 border-b border-line">
          <MapWindow
            map={map}
            view={view}
            label={`Preview of ${prepared.entry.name}`}
            onView={setView}
            onSize={onSize}
            onPick={([lon, lat]) => {
              const found = featureAt(prepared.dataset.geometry, lon, lat)
              onRow(found < 0 ? null : found)
            }}
            mark={row === null ? null : { datasetId: prepared.entry.id, feature: row }}
          />
        </div>
      )}
      <DataTable prepared={prepared} field={field} onField={onField} row={row} onRow={onRow} />
    </div>
  )
}

const aboutFields = [
  { key: 'credit', label: 'Credit line', placeholder: 'credit line, for the sheet' },
  { key: 'licence', label: 'Licence', placeholder: 'licence' },
  { key: 'dated', label: 'Date', placeholder: 'date of the data' },
  { key: 'link', label: 'Link', placeholder: 'where it comes from' },
] as const

function DatasetForm({ prepared: { entry, dataset } }: { prepared: Prepared }) {
  const folio = useDocument()
  const change = (name: string, recipe: (entry: DatasetEntry) => void) =>
    editFolio(name, (draft) => {
      const found = draft.datasets.find((d) => d.id === entry.id)
      if (found) recipe(found as DatasetEntry)
    })
  const used = folio.maps.some((map) => map.layers.some((layer) => layer.datasetId === entry.id)) || folio.datasets.some((d) => d.id !== entry.id && d.steps.some((step) => stepNeeds(step).includes(entry.id)))
  return (
    <section className="mt-auto border-t border-line px-3 py-2.5" aria-label="Dataset">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-semibold">Dataset</h3>
        <span className="flex">
          <Popover label="Save as a file" align="end" side="top" className="w-64" trigger={<IconButton label={`Save ${entry.name} as a file`} className="!size-6"><Download size={14} /></IconButton>}>
            <SaveDataset folioId={folio.id} entry={entry} hasShapes={dataset.geometry.kind !== 'none'} onBefore={saved} />
          </Popover>
          <IconButton
            label={used ? 'In use by a map or a step' : 'Take out of the folio'}
            className="!size-6"
            disabled={used}
            onClick={() => {
              editFolio(`Delete ${entry.name}`, (draft) => void (draft.datasets = draft.datasets.filter((d) => d.id !== entry.id)))
              useFolio.getState().select({ datasetId: useFolio.getState().history.folio.datasets[0]?.id ?? null })
              useFolio.getState().tell(`“${entry.name}” was taken out of the folio.`, true)
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </span>
      </div>
      <div className="flex flex-col gap-1">
        <Row label="Name">
          <TextField label="Name of the dataset" value={entry.name} onChange={(name) => change('Rename dataset', (d) => void (d.name = name))} />
        </Row>
        {aboutFields.map(({ key, label, placeholder }) => (
          <Row key={key} label={label}>
            <TextField label={label} placeholder={placeholder} value={entry[key]} allowEmpty onChange={(value) => change(`Change ${label.toLowerCase()}`, (d) => void (d[key] = value))} />
          </Row>
        ))}
        <p className="text-xs text-muted">
          {entry.source.format} from {entry.source.fileName}
        </p>
      </div>
    </section>
  )
}
