import { listBackups, makeBackup } from '@/server/backups/backups'
import { lastWords } from '@/server/backups/last-words'
import { database } from '@/server/database'
import { route } from '@/server/guard'

/** The backups that are there, and why the last one could not be made. It answers where the database is lost, too. */
export const GET = route(async () => Response.json({ backups: await listBackups(), words: lastWords() }))

/** Makes one now. */
export const POST = route(async () =>
  Response.json(await makeBackup(await database(), 'asked'), { status: 201 }),
)
