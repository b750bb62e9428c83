import { listBackups, makeBackup } from '@/server/backups/backups'
import { lastFailure } from '@/server/backups/last-failure'
import { database } from '@/server/database'
import { route } from '@/server/guard'

/** The backups that are there, and why the last one could not be made. It answers where the database is lost, too. */
export const GET = route(async () => Response.json({ backups: await listBackups(), failure: lastFailure() }))

/** Makes one now. */
export const POST = route(async () =>
  Response.json(await makeBackup(await database(), 'asked'), { status: 201 }),
)
