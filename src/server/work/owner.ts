import { readFileSync, readlinkSync } from 'node:fs'
import { mkdir, readFile, stat, writeFile } from 'node:fs/promises'
import { hostname } from 'node:os'
import path from 'node:path'
import { nanoid } from 'nanoid'

/**
 * Servers that share a data folder, in containers as well, each mark what is theirs by a key of their own. Whether a
 * server is alive is told by a file that it touches; a process number says nothing in another container.
 */

const keyLength = 10
const shared = globalThis as typeof globalThis & { keenPlotOwner?: string }

/** The key of this server. */
export const ownKey = (): string => (shared.keenPlotOwner ??= nanoid(keyLength))

export const isOwnerKey = (text: string): boolean => /^[\w-]{10}$/.test(text)

const aliveFile = 'alive'
export const touchEveryMs = 15_000
/** A server that has not touched its file for so long is gone. */
const goneAfterMs = 12 * touchEveryMs

/** Where process numbers of this one mean something: the machine, and on Linux the space that they count in. */
function placeOfProcesses(): string {
  try {
    const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()
    return `${hostname()} ${boot} ${readlinkSync('/proc/self/ns/pid')}`
  } catch {
    return hostname()
  }
}

/**
 * Says that this server is alive; never by writing on its main thread, which a disk that is busy would hold up. Returns
 * the time by the clock of the file system, ms.
 */
export async function sayAlive(folder: string): Promise<number> {
  const file = path.join(folder, aliveFile)
  await mkdir(folder, { recursive: true })
  // Written anew, since that is what sets its time by the clock of the file system.
  await writeFile(file, JSON.stringify({ pid: process.pid, place: placeOfProcesses() }))
  return (await stat(file)).mtimeMs
}

/** Whether the server of a folder is alive, at a time by the clock of the file system. */
export async function isAlive(folder: string, nowMs: number): Promise<boolean> {
  const file = path.join(folder, aliveFile)
  const changedMs = await changedAt(file)
  // One without a word may be just about to say it.
  if (nowMs - (changedMs ?? (await changedAt(folder)) ?? -Infinity) >= goneAfterMs) return false
  try {
    const { pid, place } = JSON.parse(await readFile(file, 'utf8')) as { pid?: unknown; place?: unknown }
    return place !== placeOfProcesses() || (typeof pid === 'number' && isRunning(pid))
  } catch {
    // It is being written.
    return true
  }
}

/** Whether a file or folder is there and was changed a short while ago. */
export const isFresh = async (file: string, nowMs: number): Promise<boolean> =>
  nowMs - ((await changedAt(file)) ?? -Infinity) < goneAfterMs

const changedAt = (file: string): Promise<number | null> =>
  stat(file).then(
    ({ mtimeMs }) => mtimeMs,
    () => null,
  )

const isRunning = (pid: number): boolean => {
  // An earlier server of our own number is gone.
  if (pid === process.pid) return false
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    // It runs, but is somebody else's.
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}
