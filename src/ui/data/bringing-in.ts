'use client'
import { useRef, useState } from 'react'
import { shapeWords } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import type { Asks, ReadOptions } from '@/core/data/reading'
import type { ImportResult } from '@/server/imports'
import { ApiProblem } from '../shell/api'
import { editFolio, useFolio } from '../shell/folio-store'
import { addImported, importFile, readAnew } from './importing'
import { archiveName, packedTogether, sorted } from './rasters-together'

/**
 * A file on its way in. `asks` is what has to be said before it can be read; it is kept under `uploadId`
 * meanwhile.
 */
export type Reading = {
  id: number
  name: string
  share: number
  doing: string
  problem: string | null
  asks: Asks | null
  uploadId: string
  abort: AbortController
}

export type BringingIn = {
  readings: Reading[]
  bringIn: (files: File[]) => void
  readWith: (reading: Reading, options: ReadOptions) => void
  putAside: (reading: Reading) => void
}

/**
 * Files on their way into the folio: their progress, what went wrong and what they ask. `onIn` is called for
 * each that arrived.
 */
export function useBringingIn(onIn: () => void): BringingIn {
  const [readings, setReadings] = useState<Reading[]>([])
  const { select, tell } = useFolio()
  /** Datasets of the same drop. */
  const together = useRef(new Set<string>())
  const without = (id: number) => setReadings((all) => all.filter((r) => r.id !== id))

  const follow = async (
    name: string,
    read: (
      onProgress: (share: number, doing: string) => void,
      signal: AbortSignal,
    ) => Promise<ImportResult[]>,
  ) => {
    const reading: Reading = {
      id: Math.random(),
      name,
      share: 0,
      doing: 'Sending',
      problem: null,
      asks: null,
      uploadId: '',
      abort: new AbortController(),
    }
    const update = (change: Partial<Reading>) =>
      setReadings((all) => all.map((r) => (r.id === reading.id ? { ...r, ...change } : r)))
    setReadings((all) => [...all, reading])
    try {
      const results = await read((share, doing) => update({ share, doing }), reading.abort.signal)
      editFolio(`Bring in ${name}`, (draft) => void (draft.datasets = addImported(draft, results).datasets))
      const { datasets } = useFolio.getState().history.folio
      for (const { id } of datasets.slice(-results.length)) together.current.add(id)
      // Of several files that come in together the areas stay in sight: the others are joined to them.
      const came = datasets.filter(({ id }) => together.current.has(id))
      const [first] = [...came].sort((a, b) => weight[a.geometry] - weight[b.geometry])
      select({ datasetId: first.id })
      onIn()
      without(reading.id)
      tell(came.length > results.length ? wordsOfMany(came, first) : wordsOf(name, results))
    } catch (error) {
      if (error instanceof DOMException) return without(reading.id)
      const more = error instanceof ApiProblem ? error.more : {}
      update({
        problem: error instanceof Error ? error.message : String(error),
        asks: (more.asks as Asks | undefined) ?? null,
        uploadId: String(more.uploadId ?? ''),
      })
    }
  }
  return {
    readings,
    bringIn(files) {
      if (!readings.length) together.current.clear()
      const { alone, ofGround } = sorted(files)
      for (const file of alone)
        void follow(file.name, (onProgress, signal) => importFile(file, onProgress, signal))
      if (ofGround.length)
        void follow(archiveName(ofGround), async (onProgress, signal) =>
          importFile(await packedTogether(ofGround, archiveName(ofGround)), onProgress, signal),
        )
    },
    readWith(reading, options) {
      without(reading.id)
      void follow(reading.name, (onProgress, signal) =>
        readAnew(reading.uploadId, options, onProgress, signal),
      )
    },
    putAside(reading) {
      reading.abort.abort()
      without(reading.id)
    },
  }
}

/** What is looked at first of datasets that came in together. */
const weight: Record<DatasetEntry['geometry'], number> = { areas: 0, lines: 1, points: 1, raster: 2, none: 3 }

function wordsOf(name: string, results: ImportResult[]): string {
  const amounts = results.map(
    ({ rowCount, geometry }) =>
      `${rowCount.toLocaleString('en-GB')} ${shapeWords[geometry][rowCount === 1 ? 0 : 1]}`,
  )
  return `${name} was brought in: ${amounts.join(', ')}.`
}

const wordsOfMany = (came: DatasetEntry[], first: DatasetEntry): string =>
  `${came.length} datasets were brought in. ${first.name} ${first.geometry === 'areas' ? 'are' : 'is'} in front; on the right it says what to do with the others.`

/** A table copied from a spreadsheet or a page, as a file; null for words that are not a table. */
export function pastedTable(text: string): File | null {
  const lines = text.split(/\r?\n/).filter((line) => line.trim())
  if (lines.length < 2 || !/[\t;,|]/.test(lines[0])) return null
  return new File([text], 'Pasted table.tsv', { type: 'text/tab-separated-values' })
}
