import { database } from '@/server/database'
import { startSavingFile } from '@/server/folio-files'
import { route } from '@/server/guard'

/** Writes the folio with its rows as a file, in a job whose result says where to fetch it. */
export const POST = route(async (_, { id }) =>
  Response.json({ jobId: await startSavingFile(await database(), id) }, { status: 202 }),
)
