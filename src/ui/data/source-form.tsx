'use client'
import { X } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import type { ReadOptions, ValuesAre } from '@/core/data/reading'
import type { ImportResult } from '@/server/imports'
import { importExtensions } from '@/formats/list'
import { IconButton, Row, Select } from '../kit/controls'
import { TextField } from '../kit/text-field'
import { api } from '../shell/api'
import { editFolio, useFolio } from '../shell/folio-store'
import { importFile, readAnew, sourceOf } from './importing'
import { SystemPicker } from './system-picker'

const delimiters = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
  { value: '|', label: 'bar' },
] as const
const encodings = [
  'utf-8',
  'windows-1252',
  'iso-8859-1',
  'windows-1250',
  'iso-8859-2',
  'windows-1251',
  'koi8-r',
  'utf-16le',
].map((value) => ({ value, label: value }))

const valuesAre: Record<ValuesAre, string> = {
  amounts: 'amounts',
  kinds: 'kinds',
  colours: 'colours',
}

type Busy = { share: number; doing: string; abort: AbortController }

/**
 * How the source was read, each guess open to correction; the file is read anew and everything behind it
 * follows.
 */
export function SourceForm({
  entry,
  fields,
}: {
  entry: DatasetEntry
  fields: { value: string; label: string }[]
}) {
  const { source } = entry
  const [busy, setBusy] = useState<Busy | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [trying, setTrying] = useState<ReadOptions | null>(null)
  const { guessed, options } = source
  const work = async (
    name: string,
    load: (
      onProgress: (share: number, doing: string) => void,
      signal: AbortSignal,
    ) => Promise<ImportResult[]>,
    keep: (fields: DatasetEntry['fields'], result: ImportResult) => DatasetEntry['fields'],
  ): Promise<ImportResult | null> => {
    const abort = new AbortController()
    setBusy({ share: 0, doing: 'Reading', abort })
    setProblem(null)
    try {
      const results = await load((share, doing) => setBusy({ share, doing, abort }), abort.signal)
      const result = results[source.part] ?? results[0]
      editFolio(name, (draft) => {
        const dataset = draft.datasets.find((d) => d.id === entry.id)
        if (!dataset) return
        dataset.source = sourceOf(result) as typeof dataset.source
        dataset.geometry = result.geometry
        dataset.fields = keep(dataset.fields, result)
      })
      return result
    } catch (error) {
      if (!(error instanceof DOMException)) setProblem(error instanceof Error ? error.message : String(error))
      return null
    } finally {
      setBusy(null)
      setTrying(null)
    }
  }
  const read = async (change: ReadOptions) => {
    const next = { ...options, ...change }
    setTrying(next)
    if (
      await work(
        `Read ${source.fileName} anew`,
        (onProgress, signal) => readAnew(source.uploadId, next, onProgress, signal),
        (fields, result) => ({ ...result.fields, ...fields }),
      )
    )
      useFolio.getState().tell(`${source.fileName} was read anew.`, true)
  }
  const replaceBy = async (file: File) => {
    const before = entry.fields
    const result = await work(
      `Replace ${source.fileName}`,
      (onProgress, signal) => importFile(file, onProgress, signal),
      (fields, { fields: now }) => ({
        ...now,
        ...Object.fromEntries(Object.entries(fields).filter(([key]) => key in now)),
      }),
    )
    if (!result) return
    const gone = Object.keys(before).filter((key) => !(key in result.fields))
    useFolio
      .getState()
      .tell(
        gone.length
          ? `${file.name} took its place. It no longer has: ${gone.map((key) => before[key].label).join(', ')}.`
          : `${file.name} took its place; every field is still there.`,
        true,
      )
  }
  const replacing = (
    <label className="mt-1 flex cursor-pointer items-center justify-center rounded border border-line py-1 text-xs font-medium focus-within:border-primary hover:border-muted">
      Replace by a newer file…
      <input
        type="file"
        aria-label={`Newer file for ${entry.name}`}
        className="sr-only"
        accept={importExtensions.join(',')}
        onChange={(event) => event.target.files?.[0] && void replaceBy(event.target.files[0])}
      />
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
        <p className="text-xs text-muted">
          The file itself is not kept here; bring it in again to read it otherwise.
        </p>
        {replacing}
        {told}
      </>
    )
  const table = guessed.header !== undefined
  return (
    <>
      {busy && (
        <div role="status" className="flex items-center gap-2 text-xs text-muted">
          <span className="shrink-0">{busy.doing}…</span>
          <progress
            className="progress progress-primary h-1 min-w-0 flex-1"
            aria-label="How much was read"
            value={busy.share}
            max={1}
          />
          <IconButton label="Stop reading" className="!size-6" onClick={() => busy.abort.abort()}>
            <X size={13} />
          </IconButton>
        </div>
      )}
      <fieldset disabled={busy !== null} className="flex flex-col gap-1" aria-label="How the source is read">
        {guessed.delimiter !== undefined && (
          <>
            <Row label="Delimiter">
              <Select
                label="Delimiter"
                value={guessed.delimiter}
                options={[...delimiters]}
                onChange={(delimiter) => void read({ delimiter })}
              />
            </Row>
            <Row label="Encoding">
              <Select
                label="Encoding"
                value={guessed.encoding ?? 'utf-8'}
                options={
                  encodings.some((e) => e.value === guessed.encoding)
                    ? encodings
                    : [
                        { value: guessed.encoding ?? 'utf-8', label: guessed.encoding ?? 'utf-8' },
                        ...encodings,
                      ]
                }
                onChange={(encoding) => void read({ encoding })}
              />
            </Row>
          </>
        )}
        {guessed.sheets && guessed.sheets.length > 1 && (
          <Row label="Sheet">
            <Select
              label="Sheet of the workbook"
              value={guessed.sheet ?? ''}
              options={guessed.sheets.map((value) => ({ value, label: value }))}
              onChange={(sheet) => void read({ sheet })}
            />
          </Row>
        )}
        {guessed.sheets && (
          <Row label="Cells">
            <TextField
              label="Cells of the sheet"
              placeholder="all of them, or B3:H60"
              value={guessed.range ?? ''}
              allowEmpty
              onChange={(range) => void read({ range: range.trim() || undefined })}
            />
          </Row>
        )}
        {table && (
          <>
            <Row label="Decimal mark">
              <Select
                label="Decimal mark"
                value={guessed.decimalMark ?? '.'}
                options={[
                  { value: '.', label: 'point: 1,234.5' },
                  { value: ',', label: 'comma: 1.234,5' },
                ]}
                onChange={(decimalMark) => void read({ decimalMark })}
              />
            </Row>
            <Row label="First row">
              <Select
                label="First row"
                value={guessed.header ? 'names' : 'values'}
                options={[
                  { value: 'names', label: 'holds the names' },
                  { value: 'values', label: 'holds values' },
                ]}
                onChange={(first) => void read({ header: first === 'names' })}
              />
            </Row>
            {guessed.totals && (
              <Row label="Rows of totals">
                <Select
                  label="Rows that hold the sums of the others"
                  value={guessed.totals}
                  options={[
                    { value: 'aside', label: 'set aside' },
                    { value: 'kept', label: 'kept among the rows' },
                  ]}
                  onChange={(totals) => void read({ totals })}
                />
              </Row>
            )}
            <Row label="East, x">
              <Select
                label="Field of the easting"
                value={guessed.x ?? 'none'}
                options={[{ value: 'none', label: 'none: a table' }, ...fields]}
                onChange={(x) =>
                  void (x === 'none' ? read({ x: 'none', y: undefined }) : setPair(x, guessed.y))
                }
              />
            </Row>
            <Row label="North, y">
              <Select
                label="Field of the northing"
                value={guessed.y ?? 'none'}
                options={[{ value: 'none', label: 'none: a table' }, ...fields]}
                onChange={(y) =>
                  void (y === 'none' ? read({ x: 'none', y: undefined }) : setPair(guessed.x, y))
                }
              />
            </Row>
          </>
        )}
        {(!table || guessed.x !== undefined) && (
          <Row label="System">
            <SystemPicker value={guessed.crs ?? 'WGS 84, degrees'} onPick={(crs) => void read({ crs })} />
          </Row>
        )}
        {guessed.valuesMayBe && (
          <Row label="Values">
            <Select
              label="What values are"
              value={guessed.values ?? 'amounts'}
              options={guessed.valuesMayBe.map((value) => ({ value, label: valuesAre[value] }))}
              onChange={(values) => void read({ values })}
            />
          </Row>
        )}
        {table && <FirstRows uploadId={source.uploadId} options={trying ?? options} part={source.part} />}
        {replacing}
        {told}
      </fieldset>
    </>
  )

  function setPair(x: string | undefined, y: string | undefined) {
    // The other one follows as soon as it is chosen too.
    if (x && y && x !== 'none' && y !== 'none') return read({ x, y })
    const other = fields.find(({ value }) => value !== (x ?? y))?.value
    return read({ x: x && x !== 'none' ? x : other, y: y && y !== 'none' ? y : other })
  }
}

type Rows = { keys: string[]; rows: (string | null)[][] }

/** The first rows of a table as it is read with some options; shown before the whole file has been read. */
function FirstRows({ uploadId, options, part }: { uploadId: string; options: ReadOptions; part: number }) {
  const [rows, setRows] = useState<Rows | null>(null)
  const latest = useRef(0)
  useEffect(() => {
    const mine = ++latest.current
    void api<Rows | null>('POST', `/api/imports/${uploadId}/first-rows?part=${part}`, options).then(
      (firstRows) => mine === latest.current && setRows(firstRows),
      () => mine === latest.current && setRows(null),
    )
  }, [uploadId, options, part])
  if (!rows) return null
  return (
    <div
      className="mt-1 overflow-x-auto rounded border border-line"
      role="region"
      aria-label="First rows as they are read"
      tabIndex={0}
    >
      <table className="font-condensed text-[11px] leading-5">
        <thead className="bg-base-200 text-left">
          <tr>
            {rows.keys.map((key) => (
              <th key={key} className="max-w-28 truncate border-r border-line px-1.5 font-semibold">
                {key}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.rows.map((row, i) => (
            <tr key={i} className="border-t border-line">
              {row.map((cell, c) => (
                <td
                  key={c}
                  className={`max-w-28 truncate border-r border-line px-1.5 ${cell === null ? 'text-muted italic' : ''}`}
                >
                  {cell ?? 'missing'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
