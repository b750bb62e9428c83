import { open, readdir, readFile, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { dataFolder } from '../config'
import { writeDurably } from '../write-durably'

/**
 * Sessions that were ended before their time: a file each in the data folder, so that all servers on it know, also
 * after a restart; and the moment before which all were ended at once.
 */
const folder = (): string => dataFolder('sessions')
const endedAt = (id: string): string => path.join(folder(), `${id}.ended`)
const beforeAt = (): string => path.join(folder(), 'ended-before')

/** A session as its cookie says it: its id, and when it was opened, in milliseconds. */
export type Session = { id: string; openedAt: number }

/** What this process knows, for as long as the folder cannot be read. */
const known = { ended: new Set<string>(), before: 0 }

const isMissing = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && error.code === 'ENOENT'

/** Whether a session was ended. Where the folder cannot be read, what this process knows holds. */
export async function wasEnded({ id, openedAt }: Session): Promise<boolean> {
  if (known.ended.has(id) || openedAt <= known.before) return true
  try {
    const before = await readFile(beforeAt(), 'utf8').catch((error: unknown) => {
      if (isMissing(error)) return '0'
      throw error
    })
    known.before = Math.max(known.before, Number(before) || 0)
    if (openedAt <= known.before) return true
    await stat(endedAt(id))
    known.ended.add(id)
    return true
  } catch {
    return false
  }
}

/**
 * Ends a session; it is ended once this returns.
 * @param lastsMs how long sessions last: what is known of older ones is let go
 */
export async function endSession({ id }: Session, lastsMs: number): Promise<void> {
  known.ended.add(id)
  const handle = await open(endedAt(id), 'w')
  await handle.sync().finally(() => handle.close())
  const overdue = Date.now() - lastsMs
  for (const name of (await readdir(folder())).filter((one) => one.endsWith('.ended'))) {
    const file = path.join(folder(), name)
    const { mtimeMs } = await stat(file).catch(() => ({ mtimeMs: Infinity }))
    if (mtimeMs < overdue) await rm(file, { force: true })
  }
}

/** Ends all sessions that were opened until now. */
export async function endAllSessions(): Promise<void> {
  known.before = Date.now()
  await writeDurably(beforeAt(), Buffer.from(String(known.before)))
}
