import { mkdir, readdir, rm } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { dataFolder, stores } from '../config'
import { isAlive, isFresh, isOwnerKey, ownKey, sayAlive, touchEveryMs } from './owner'

/**
 * Files under way. Everything that a task writes lies in a folder of its own below that of this server, beside the
 * stored data, so that what is complete only gets another name.
 */
const folderOf = (key: string): string => path.join(dataFolder('scratch'), key)

/** A folder for one task. */
export async function newScratch(): Promise<string> {
  const folder = path.join(folderOf(ownKey()), nanoid(12))
  await mkdir(folder, { recursive: true })
  return folder
}

/** Removes a folder with all that is in it, also while a process that was just killed lets go of it. */
export const removeScratch = (folder: string): Promise<void> =>
  rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 50 })

/** The name of a file that is being written, until it is complete. */
export const draftOf = (file: string): string => `${file}.${ownKey()}-${nanoid(8)}.part`

/** Whose a file under way is; null where that cannot be told. */
const ownerOfDraft = (name: string): string | null => /\.([\w-]{10})-[\w-]{8}\.part$/.exec(name)?.[1] ?? null

/**
 * Clears away what servers that are gone left behind: folders of tasks and files that were not complete. What other
 * servers on this folder are at stays.
 */
export async function clearScratch(): Promise<void> {
  const now = await sayAlive(folderOf(ownKey()))
  const alive = async (key: string): Promise<boolean> => key === ownKey() || isAlive(folderOf(key), now)
  for (const store of stores)
    for (const name of (await readdir(dataFolder(store))).filter((file) => file.endsWith('.part'))) {
      const owner = ownerOfDraft(name)
      const file = path.join(dataFolder(store), name)
      if (!(owner ? await alive(owner) : await isFresh(file, now))) await rm(file, { force: true })
    }
  for (const name of await readdir(dataFolder('scratch')))
    if (!(isOwnerKey(name) ? await alive(name) : await isFresh(folderOf(name), now)))
      await removeScratch(folderOf(name))
}

const shared = globalThis as typeof globalThis & { keenPlotScratchKept?: boolean }
const clearEveryTurns = 40

/** Says from now on that this server is alive, and clears away what others leave behind; once for a process. */
export async function keepScratch(): Promise<void> {
  if (shared.keenPlotScratchKept) return
  await clearScratch()
  shared.keenPlotScratchKept = true
  let turn = 0
  setInterval(() => {
    const work = ++turn % clearEveryTurns === 0 ? clearScratch() : sayAlive(folderOf(ownKey()))
    work.catch((error: unknown) => console.error(error))
  }, touchEveryMs).unref()
}
