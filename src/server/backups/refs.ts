import { readFile } from 'node:fs/promises'
import type { Database } from '../database'
import { refsOfDatabase } from '../refs'
import { listBackups, refsPlaceOf } from './backups'

/**
 * The ids of all stored things that are in use: those that folios refer to, and those that backups do, since what these
 * hold can be brought back only as long as their rows are there.
 * @throws where that of a backup cannot be told, so that nothing is cleared away
 */
export async function refsInUse(db: Database): Promise<Set<string>> {
  const used = await refsOfDatabase(db)
  for (const { id } of await listBackups())
    for (const ref of (await readFile(refsPlaceOf(id), 'utf8')).split(' ')) used.add(ref)
  return used
}
