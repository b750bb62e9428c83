'use client'
import { AlertTriangle, FileInput, Info } from 'lucide-react'
import { useState } from 'react'
import { formOf, shapeWords, type Dataset } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared } from '@/core/data/prepare'
import type { ShapeNote } from '@/core/data/reading'
import { lookAgain } from '../border-checks'
import { SourceForm } from '../source-form'

const sizeWords = (dataset: Dataset): string => {
  const count = (n: number) => n.toLocaleString('en-GB')
  if (dataset.raster)
    return `${count(dataset.raster.fileSize[0])} × ${count(dataset.raster.fileSize[1])} cells`
  return `${count(dataset.rowCount)} ${shapeWords[formOf(dataset)][dataset.rowCount === 1 ? 0 : 1]}`
}

/** Where the rows come from, what was found while reading them, and how they were read. */
export function SourceCard({
  entry,
  source,
  open,
  onOpen,
  onLook,
}: {
  entry: DatasetEntry
  source: Prepared
  open: boolean
  onOpen: () => void
  onLook: (row: number, at: [number, number] | null) => void
}) {
  const { notes } = entry.source
  const kinds = [...new Set(notes.map(({ what }) => what))]
  return (
    <li className={`rounded border px-2.5 py-1.5 ${notes.length ? 'border-caution' : 'border-line'}`}>
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-center gap-2 font-semibold"
        onClick={onOpen}
      >
        <FileInput size={14} aria-hidden /> Source
      </button>
      <p className="text-xs break-words text-muted">
        {entry.source.fileName}, {sizeWords(source.dataset)}
      </p>
      {kinds.map((what) => {
        const rows = notes.filter((note) => note.what === what)
        return <NoteLine key={what} what={what} notes={rows} onLook={onLook} />
      })}
      {entry.source.remarks.map((remark) => (
        <p key={remark} className="flex items-start gap-1.5 text-xs">
          <Info size={13} className="mt-0.5 shrink-0 text-muted" aria-hidden /> <span>{remark}</span>
        </p>
      ))}
      {entry.source.borders === 'stopped' && (
        <button
          type="button"
          className="flex items-start gap-1.5 text-left text-xs hover:underline"
          onClick={() => lookAgain(entry.id)}
        >
          <Info size={13} className="mt-0.5 shrink-0 text-muted" aria-hidden /> Borders were not looked at.
          Look for gaps and overlaps
        </button>
      )}
      {open && (
        <div className="mt-2 border-t border-line pt-2">
          <SourceForm
            entry={entry}
            fields={source.dataset.fields.map(({ key }) => ({
              value: key,
              label: source.fieldMeta(key).label,
            }))}
          />
        </div>
      )}
    </li>
  )
}

/** What was found so many times; each click goes to the next place. */
function NoteLine({
  what,
  notes,
  onLook,
}: {
  what: string
  notes: ShapeNote[]
  onLook: (row: number, at: [number, number] | null) => void
}) {
  const [next, setNext] = useState(0)
  const { row, at } = notes[next]
  return (
    <button
      type="button"
      className="flex items-start gap-1.5 text-left text-xs hover:underline"
      onClick={() => {
        onLook(row, at ? [at[0], at[1]] : null)
        setNext((next + 1) % notes.length)
      }}
    >
      <AlertTriangle size={13} className="mt-0.5 shrink-0 text-caution" /> {notes.length} × {what}:{' '}
      {next + 1 < notes.length || next ? `see number ${next + 1}` : 'see it'}, row {row + 1}
    </button>
  )
}
