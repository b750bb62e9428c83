import { mkdirSync, readdirSync, rmSync, type Dirent } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import path from 'node:path'
import { nanoid } from 'nanoid'
import { dataFolder } from '../config'

/**
 * Files under way. Everything that a task writes lies in a folder of its own below that of this server's
 * process, beside the stored data, so that what is complete only gets another name.
 */
const folderOf = (pid: number): string => path.join(dataFolder('scratch'), String(pid))

/** A folder for one task. */
export async function newScratch(): Promise<string> {
  const folder = path.join(folderOf(process.pid), nanoid(12))
  await mkdir(folder, { recursive: true })
  return folder
}

/** Removes a folder with all that is in it, also while a process that was just killed lets go of it. */
export const removeScratch = (folder: string): Promise<void> =>
  rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 50 })

/** The name of a file that is being written, until it is complete. */
export const draftOf = (file: string): string => `${file}.${process.pid}-${nanoid(8)}.part`

const isRunning = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    // It runs, but is somebody else's.
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/** Whether what a process left can go: that of processes that are gone, and of an earlier one of our number. */
const isOrphaned = (pid: number): boolean => pid === process.pid || !isRunning(pid)

/**
 * Clears away what servers that were killed left behind: folders of tasks and files that were not complete.
 * To be called once, before any work begins.
 */
export function clearScratch(): void {
  const scratch = dataFolder('scratch')
  for (const name of readdirSync(scratch))
    if (isOrphaned(Number(name))) rmSync(path.join(scratch, name), { recursive: true, force: true })
  for (const place of ['datasets', 'uploads', 'prints'])
    for (const { name } of readdirSync(dataFolder(place), { withFileTypes: true }).filter(isDraft)) {
      const pid = /\.(\d+)-[\w-]+\.part$/.exec(name)?.[1]
      if (pid === undefined || isOrphaned(Number(pid)))
        rmSync(path.join(dataFolder(place), name), { force: true })
    }
  mkdirSync(folderOf(process.pid), { recursive: true })
}

const isDraft = (entry: Dirent): boolean => entry.isFile() && entry.name.endsWith('.part')
