import { open, rename, rm } from 'node:fs/promises'
import { draftOf } from './work/scratch'

/** Waits until what was written into a file is on the disk. */
export async function syncFile(file: string): Promise<void> {
  const handle = await open(file, 'r+')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}

/** Writes a file that has its name only once it is complete on disk; nothing is left where that fails. */
export async function writeDurably(
  file: string,
  content: Uint8Array | AsyncIterable<Uint8Array>,
): Promise<void> {
  const draft = draftOf(file)
  try {
    const handle = await open(draft, 'w')
    try {
      // A stream is written as it comes; the library's types know of whole files only.
      await handle.writeFile(content as Uint8Array)
      await handle.sync()
    } finally {
      await handle.close()
    }
    await rename(draft, file)
  } catch (error) {
    await rm(draft, { force: true })
    throw error
  }
}
