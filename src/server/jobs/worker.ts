import { readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { parentPort, workerData } from 'node:worker_threads'
import { formOf } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { askedBy, ImportError } from '@/formats/import-error'
import { packDataset, unpackDataset } from '@/formats/pack/pack'
import { readFile } from '@/formats/registry'
import { renderSheet } from '@/render/sheet'
import type { ImportedPack, JobMessage, JobTask } from './protocol'

const tell = (message: JobMessage): void => parentPort?.postMessage(message)
const progress = (share: number, doing: string): void => tell({ type: 'progress', share, doing })

async function runImport({
  file,
  fileName,
  options,
  outFolder,
}: Extract<JobTask, { kind: 'import' }>): Promise<void> {
  progress(0.1, 'Reading')
  const { format, datasets } = await readFile(readFileSync(file), fileName, options)
  const packs = datasets.map(({ name, dataset, guessed, notes }, i): ImportedPack => {
    progress(0.6 + (0.4 * i) / datasets.length, `Storing ${name}`)
    const packed = path.join(outFolder, `${i}.pack`)
    writeFileSync(packed, packDataset(dataset))
    return {
      file: packed,
      name,
      rowCount: dataset.rowCount,
      geometry: formOf(dataset),
      fields: Object.fromEntries(dataset.fields.map(({ key, column }) => [key, proposeMeta(key, column)])),
      guessed,
      notes: notes.slice(0, 500),
    }
  })
  tell({ type: 'imported', format, packs })
}

async function runPrint(task: Extract<JobTask, { kind: 'print' }>): Promise<void> {
  const contents = (id: string) =>
    task.contentFiles[id] ? unpackDataset(new Uint8Array(readFileSync(task.contentFiles[id]))) : null
  const bytes = await renderSheet({ ...task, contents, date: new Date(task.date), progress })
  writeFileSync(task.outFile, bytes)
  tell({ type: 'printed', bytes: bytes.length })
}

try {
  const task = workerData as JobTask
  if (task.kind === 'import') await runImport(task)
  else await runPrint(task)
} catch (error) {
  tell({
    type: 'failed',
    message: error instanceof Error ? error.message : String(error),
    expected: error instanceof ImportError || error instanceof RangeError,
    asks: askedBy(error),
  })
}
