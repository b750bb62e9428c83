'use client'
import { FileWarning, Upload } from 'lucide-react'
import { useEffect, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { Button } from '../kit/controls'
import { usePrepared } from '../shell/contents'
import { useDocument, useFolio } from '../shell/folio-store'
import { isTyping } from '../shell/typing'
import { pastedTable, useBringingIn } from './bringing-in'
import { DatasetForm } from './dataset-form'
import { DatasetList } from './dataset-list'
import { FieldCard } from './field-card'
import { NextSteps } from './next-steps'
import { Overview, type Looked } from './overview'
import { PrepSteps } from './prep-steps'

/** Bring in, look at and prepare data. A file can be dropped anywhere, a table pasted. */
export function DataDesk() {
  const folio = useDocument()
  const prepared = usePrepared()
  const { selection, select } = useFolio()
  const [field, setField] = useState<string | null>(null)
  const [looked, setLooked] = useState<Looked | null>(null)
  const files = useBringingIn(() => setLooked(null))
  const drop = useDropzone({ onDrop: files.bringIn, noClick: true, noKeyboard: true })
  const current = selection.datasetId ? (prepared.get(selection.datasetId) ?? null) : null
  const pickDataset = (id: string) => {
    select({ datasetId: id })
    setField(null)
    setLooked(null)
  }
  const mark = (row: number | null) => setLooked(row === null ? null : { row, zoom: false, at: null })
  const lookAt = (row: number, at: [number, number] | null = null) => setLooked({ row, zoom: true, at })
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (isTyping(event)) return
      const pasted = [...(event.clipboardData?.files ?? [])]
      const table = pastedTable(event.clipboardData?.getData('text/plain') ?? '')
      if (table) pasted.push(table)
      if (pasted.length) files.bringIn(pasted)
    }
    window.addEventListener('paste', onPaste)
    return () => window.removeEventListener('paste', onPaste)
  })

  return (
    <div
      {...drop.getRootProps()}
      className={`grid h-full grid-cols-[232px_minmax(0,1fr)_264px] ${drop.isDragActive ? 'ring-2 ring-primary ring-inset' : ''}`}
    >
      <input {...drop.getInputProps({ 'aria-label': 'Files to bring in', className: 'hidden', style: {} })} />
      <DatasetList prepared={prepared} files={files} onChoose={drop.open} onPick={pickDataset} />
      {current ? (
        <Overview
          key={current.entry.id}
          prepared={current}
          field={field}
          onField={setField}
          looked={looked}
          onRow={mark}
        />
      ) : (
        <div className="grid place-items-center">
          <div className="max-w-sm text-center">
            <FileWarning size={26} className="mx-auto text-muted" aria-hidden />
            <h2 className="mt-3 font-serif text-lg font-semibold">
              {folio.datasets.length ? 'Choose a dataset' : 'Bring in boundaries and a table'}
            </h2>
            <p className="mt-1 text-muted">
              Drop files anywhere on this desk: boundaries, points, lines and elevation in any open format,
              tables from a spreadsheet, copied or as a file. Areas and a table with a code in common can be
              joined here.
            </p>
            <Button look="primary" className="mt-4" onClick={drop.open}>
              <Upload size={15} /> Choose files
            </Button>
          </div>
        </div>
      )}
      <aside
        className="flex min-h-0 flex-col overflow-y-auto border-l border-line bg-base-100"
        aria-label="Prep steps and field"
      >
        {current && (
          <>
            <NextSteps prepared={current} all={prepared} />
            <PrepSteps key={current.entry.id} prepared={current} all={prepared} onLook={lookAt} />
            <FieldCard key={`${current.entry.id} ${field}`} prepared={current} field={field} onRow={lookAt} />
            <DatasetForm prepared={current} />
          </>
        )}
      </aside>
    </div>
  )
}
