'use client'
import { FileDown, FileUp } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useRef, useState } from 'react'
import type { DatasetEntry } from '@/core/data/entry'
import type { PrepStep } from '@/core/data/steps/registry'
import { readSteps, stemOf, withDatasets, writeSteps } from '@/formats/steps-file/steps-file'
import { ownText } from '@/formats/own-file'
import { saveJson } from '../../kit/save-file'
import { useDocument } from '../../shell/folio-store'

/** The list of steps as a file: saved from one dataset, used on another, or handed to the command line. */
export function StepListFile({
  entry,
  onTake,
}: {
  entry: DatasetEntry
  onTake: (steps: PrepStep[]) => void
}) {
  const { datasets } = useDocument()
  const picker = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState('')
  const save = () => {
    const portable = withDatasets(entry.steps, (id) => {
      const other = datasets.find((d) => d.id === id)
      return other && stemOf(other.source.fileName)
    })
    saveJson(writeSteps(portable), `${stemOf(entry.source.fileName)}.steps.json`)
  }
  const take = async (file: File) => {
    try {
      const steps = withDatasets(
        readSteps(await ownText(file), file.name),
        (stem) => datasets.find((d) => stemOf(d.source.fileName) === stem)?.id,
      )
      onTake(steps.map((step) => ({ ...step, id: nanoid(8) })))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  const look =
    'flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-base-200 disabled:opacity-40'
  return (
    <div className="mt-1 border-t border-line pt-1">
      <button type="button" className={look} disabled={!entry.steps.length} onClick={save}>
        <FileDown size={14} aria-hidden /> Save the list of steps
      </button>
      <button type="button" className={look} onClick={() => picker.current?.click()}>
        <FileUp size={14} aria-hidden /> Take steps from a list
      </button>
      <input
        ref={picker}
        type="file"
        accept=".json"
        aria-label="List of steps"
        className="hidden"
        onChange={(event) => event.target.files?.[0] && void take(event.target.files[0])}
      />
      {problem && (
        <p role="alert" className="px-2 text-xs text-error">
          {problem}
        </p>
      )}
    </div>
  )
}
