import { readFileSync } from 'node:fs'
import type { ShapeNote } from '@/core/data/reading'
import { unpackDataset } from '@/formats/pack/pack'
import { borderNotes } from '@/formats/vector'
import type { TaskContext } from '../protocol'

/** As many places are told of; more are not looked at one by one. */
const mostNotes = 500

/** Looks for gaps and overlaps between the areas of stored rows. */
export async function checkBorders(
  { file }: { file: string },
  { progress }: TaskContext,
): Promise<{ notes: ShapeNote[]; found: number }> {
  progress(0.05, 'Looking at borders')
  const { geometry } = unpackDataset(new Uint8Array(readFileSync(file)))
  const notes = borderNotes(geometry, (share) => progress(0.1 + 0.9 * share, 'Looking at borders'))
  return { notes: notes.slice(0, mostNotes), found: notes.length }
}
