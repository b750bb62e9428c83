import path from 'node:path'
import { newScratch, removeScratch } from './work/scratch'
import { writeDurably } from './write-durably'

/** Keeps a file that was sent, in a folder of its own, until it has been read. Returns where it lies. */
export async function keepSent(content: Uint8Array | AsyncIterable<Uint8Array>): Promise<string> {
  const folder = await newScratch()
  const file = path.join(folder, 'sent')
  await writeDurably(file, content).catch(async (error: unknown) => {
    await removeScratch(folder)
    throw error
  })
  return file
}

/** Lets a kept file go. */
export const dropSent = (file: string): Promise<void> => removeScratch(path.dirname(file))
