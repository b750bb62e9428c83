import path from 'node:path'
import { formOf } from '@/core/data/dataset'
import { proposeFields, type FieldMeta } from '@/core/data/field-meta'
import type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'
import type { Sink } from '@/formats/byte-source'
import { readFile } from '@/formats/registry'
import { fileSink, fileSource } from '../file-source'
import type { TaskContext } from '../protocol'
import { writePacked, type PackedContent } from './packed'

export type ReadDataset = PackedContent & {
  name: string
  geometry: 'areas' | 'lines' | 'points' | 'raster' | 'none'
  fields: Record<string, FieldMeta>
  guessed: Guessed
  notes: ShapeNote[]
  remarks: string[]
  /** Whose data they are, where the file says so; else empty. */
  credit: string
}

const mostNotes = 500

/** Reads a file that was brought in into stored form, each dataset of it. */
export async function importFile(
  { file, fileName, options }: { file: string; fileName: string; options: ReadOptions },
  { scratch, progress }: TaskContext,
): Promise<{ format: string; datasets: ReadDataset[] }> {
  progress(0.1, 'Reading')
  /** Files that fine cells were put into. */
  const files = new Map<Sink, string>()
  const { format, datasets } = await readFile(fileSource(file), fileName, options, {
    progress: (share, doing) => progress(0.1 + 0.5 * share, doing),
    openSink() {
      const place = path.join(scratch, `${files.size}.tiles`)
      const sink = fileSink(place)
      files.set(sink, place)
      return sink
    },
  })
  const read: ReadDataset[] = []
  for (const [i, { name, dataset, guessed, notes, remarks = [], said, tiles }] of datasets.entries()) {
    progress(0.6 + (0.4 * i) / datasets.length, `Storing ${name}`)
    read.push({
      ...(await writePacked(dataset, path.join(scratch, String(i)), tiles && files.get(tiles))),
      name,
      geometry: formOf(dataset),
      fields: proposeFields(dataset, said?.many),
      credit: said?.credit ?? '',
      guessed,
      notes: notes.slice(0, mostNotes),
      remarks: remarks.slice(0, 200).map((remark) => remark.slice(0, 1000)),
    })
  }
  return { format, datasets: read }
}
