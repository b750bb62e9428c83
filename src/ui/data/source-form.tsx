'use client'
import { Search } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import type { ReadOptions } from '@/core/data/reading'
import type { Extent } from '@/core/geo/geometry'
import type { SystemCard } from '@/server/reference-systems'
import { Button, Row, Select } from '../kit/controls'
import { Popover } from '../kit/popover'
import { api } from '../shell/api'
import { editFolio, useFolio } from '../shell/folio-store'
import { importExtensions } from '@/formats/extensions'
import { exportFormatIds, exportFormats, type ExportFormat } from '@/formats/writers/formats'
import { importFile, readAnew, sourceOf } from './importing'

const delimiters = [{ value: ',', label: 'comma' }, { value: ';', label: 'semicolon' }, { value: '\t', label: 'tab' }, { value: '|', label: 'bar' }] as const
const encodings = ['utf-8', 'windows-1252', 'iso-8859-1', 'windows-1250', 'iso-8859-2', 'windows-1251', 'koi8-r', 'utf-16le'].map((value) => ({ value, label: value }))

/** How the source was read, each guess open to correction; the file is read anew and everything behind it follows. */
export function SourceForm({ entry, fields }: { entry: DatasetEntry; fields: { value: string; label: string }[] }) {
  const { source } = entry
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const { guessed, options } = source
  const read = async (change: ReadOptions) => {
    setBusy(true)
    setProblem(null)
    const next = { ...options, ...change }
    try {
      const results = await readAnew(source.uploadId, next)
      const result = results[source.part] ?? results[0]
      editFolio(`Read ${source.fileName} anew`, (draft) => {
        const found = draft.datasets.find((d) => d.id === entry.id)
        if (!found) return
        found.source = sourceOf(result) as typeof found.source
        found.geometry = result.geometry
        found.fields = { ...result.fields, ...found.fields }
      })
      useFolio.getState().tell(`${source.fileName} was read anew.`, true)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const replaceBy = async (file: File) => {
    setBusy(true)
    setProblem(null)
    try {
      const [result] = await importFile(file)
      const gone = Object.keys(entry.fields).filter((key) => !(key in result.fields))
      editFolio(`Replace ${source.fileName}`, (draft) => {
        const found = draft.datasets.find((d) => d.id === entry.id)
        if (!found) return
        found.source = sourceOf(result) as typeof found.source
        found.geometry = result.geometry
        found.fields = { ...result.fields, ...Object.fromEntries(Object.entries(found.fields).filter(([key]) => key in result.fields)) }
      })
      useFolio.getState().tell(gone.length ? `${file.name} took its place. It no longer has: ${gone.map((key) => entry.fields[key].label).join(', ')}.` : `${file.name} took its place; every field is still there.`, true)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const replacing = (
    <label className="mt-1 flex cursor-pointer items-center justify-center rounded border border-line py-1 text-xs font-medium focus-within:border-primary hover:border-muted">
      Replace by a newer file…
      <input type="file" aria-label={`Newer file for ${entry.name}`} className="sr-only" accept={importExtensions.join(',')} onChange={(event) => event.target.files?.[0] && void replaceBy(event.target.files[0])} />
    </label>
  )
  const told = problem && (
    <p role="alert" className="text-xs text-error">
      {problem}
    </p>
  )
  if (!source.uploadId)
    return (
      <>
        <p className="text-xs text-muted">The file itself is not kept here; bring it in again to read it otherwise.</p>
        {replacing}
        {told}
      </>
    )
  const table = guessed.header !== undefined
  return (
    <fieldset disabled={busy} className="flex flex-col gap-1" aria-label="How the source is read">
      {guessed.delimiter !== undefined && (
        <>
          <Row label="Delimiter">
            <Select label="Delimiter" value={guessed.delimiter} options={[...delimiters]} onChange={(delimiter) => void read({ delimiter })} />
          </Row>
          <Row label="Encoding">
            <Select label="Encoding" value={guessed.encoding ?? 'utf-8'} options={encodings.some((e) => e.value === guessed.encoding) ? encodings : [{ value: guessed.encoding ?? 'utf-8', label: guessed.encoding ?? 'utf-8' }, ...encodings]} onChange={(encoding) => void read({ encoding })} />
          </Row>
        </>
      )}
      {guessed.sheets && guessed.sheets.length > 1 && (
        <Row label="Sheet">
          <Select label="Sheet of the workbook" value={guessed.sheet ?? ''} options={guessed.sheets.map((value) => ({ value, label: value }))} onChange={(sheet) => void read({ sheet })} />
        </Row>
      )}
      {table && (
        <>
          <Row label="Decimal mark">
            <Select label="Decimal mark" value={guessed.decimalMark ?? '.'} options={[{ value: '.', label: 'point: 1,234.5' }, { value: ',', label: 'comma: 1.234,5' }]} onChange={(decimalMark) => void read({ decimalMark })} />
          </Row>
          <Row label="First row">
            <Select label="First row" value={guessed.header ? 'names' : 'values'} options={[{ value: 'names', label: 'holds the names' }, { value: 'values', label: 'holds values' }]} onChange={(first) => void read({ header: first === 'names' })} />
          </Row>
          <Row label="East, x">
            <Select label="Field of the easting" value={guessed.x ?? 'none'} options={[{ value: 'none', label: 'none: a table' }, ...fields]} onChange={(x) => void (x === 'none' ? read({ x: 'none', y: undefined }) : setPair(x, guessed.y))} />
          </Row>
          <Row label="North, y">
            <Select label="Field of the northing" value={guessed.y ?? 'none'} options={[{ value: 'none', label: 'none: a table' }, ...fields]} onChange={(y) => void (y === 'none' ? read({ x: 'none', y: undefined }) : setPair(guessed.x, y))} />
          </Row>
        </>
      )}
      {(!table || guessed.x !== undefined) && (
        <Row label="System">
          <SystemPicker value={guessed.crs ?? 'WGS 84, degrees'} onPick={(crs) => void read({ crs })} />
        </Row>
      )}
      {busy && <p className="text-xs text-muted">Reading anew…</p>}
      {replacing}
      {told}
    </fieldset>
  )

  function setPair(x: string | undefined, y: string | undefined) {
    // The other one follows as soon as it is chosen too.
    if (x && y && x !== 'none' && y !== 'none') return read({ x, y })
    const other = fields.find(({ value }) => value !== (x ?? y))?.value
    return read({ x: x && x !== 'none' ? x : other, y: y && y !== 'none' ? y : other })
  }
}

/** A search of the EPSG list by name, place or code; systems whose area of use holds the data come first. */
export function SystemPicker({ value, extent, onPick }: { value: string; extent?: Extent | null; onPick: (code: string) => void }) {
  const [words, setWords] = useState('')
  const [found, setFound] = useState<SystemCard[]>([])
  const [problem, setProblem] = useState('')
  useEffect(() => {
    let here = true
    const timer = setTimeout(() => void api<SystemCard[]>('GET', `/api/reference-systems?words=${encodeURIComponent(words)}&extent=${extent?.join(',') ?? ''}`).then((list) => here && setFound(list), (error: Error) => here && setProblem(error.message)), 150)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [words, extent])
  return (
    <Popover
      label="Reference system"
      className="w-80"
      trigger={
        <button type="button" aria-label={`Reference system: ${value}`} className="control flex w-full min-w-0 items-center gap-2">
          <Search size={13} className="shrink-0" aria-hidden /> <span className="truncate">{value}</span>
        </button>
      }
    >
      {(close) => (
        <>
          <input autoFocus aria-label="Find a reference system" placeholder="Name, place or code" className="control w-full" value={words} onChange={(event) => setWords(event.target.value)} />
          <ul className="mt-1 max-h-64 overflow-y-auto">
            {found.map((system) => (
              <li key={system.code}>
                <button type="button" className="flex w-full flex-col rounded px-2 py-1 text-left hover:bg-base-200" onClick={() => { onPick(system.code); close() }}>
                  <span className="flex justify-between gap-2">
                    <span className="truncate">{system.name}</span> <span className="shrink-0 text-xs text-muted">{system.code}</span>
                  </span>
                  <span className="truncate text-xs text-muted">{system.area}</span>
                </button>
              </li>
            ))}
            {!found.length && <li className="px-2 py-1 text-xs text-muted">{problem || 'Nothing of that name.'}</li>}
          </ul>
        </>
      )}
    </Popover>
  )
}

/** Saves a prepared dataset as a file. */
export function SaveDataset({ folioId, entry, hasShapes, onBefore }: { folioId: string; entry: DatasetEntry; hasShapes: boolean; onBefore: () => Promise<boolean> }) {
  const [format, setFormat] = useState<ExportFormat>('gpkg')
  const [names, setNames] = useState<'readable' | 'short'>('readable')
  const [crs, setCrs] = useState('EPSG:4326')
  const [problem, setProblem] = useState<string | null>(null)
  const formats = exportFormatIds.filter((id) => hasShapes || !exportFormats[id].shapes).map((id) => ({ value: id, label: exportFormats[id].label }))
  const save = async () => {
    setProblem(null)
    if (!(await onBefore())) return setProblem('The folio is not saved; settle that first.')
    const response = await fetch(`/api/folios/${folioId}/datasets/${entry.id}?format=${format}&names=${names}&crs=${encodeURIComponent(crs)}`)
    if (!response.ok) return setProblem(String(((await response.json().catch(() => ({}))) as { detail?: string }).detail ?? 'It could not be saved.'))
    const name = /filename\*=UTF-8''(.+)$/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? 'data'
    const link = document.createElement('a')
    link.href = URL.createObjectURL(await response.blob())
    link.download = decodeURIComponent(name)
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  }
  return (
    <div className="flex flex-col gap-1">
      <Row label="As">
        <Select label="File format" value={format} options={formats} onChange={setFormat} />
      </Row>
      <Row label="Field names">
        <Select label="Field names" value={names} options={[{ value: 'readable', label: 'readable' }, { value: 'short', label: 'short' }]} onChange={setNames} />
      </Row>
      {hasShapes && (
        <Row label="System">
          <SystemPicker value={crs} onPick={setCrs} />
        </Row>
      )}
      <Button onClick={() => void save()}>Save as a file</Button>
      {problem && (
        <p role="alert" className="text-xs text-error">
          {problem}
        </p>
      )}
    </div>
  )
}
