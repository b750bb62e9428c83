import { sendCopy } from '@/server/backups/everything'
import { database } from '@/server/database'
import { route } from '@/server/guard'

/** A copy of the database that is open, also where its file was moved. */
export const GET = route(async () => sendCopy(await database()))
