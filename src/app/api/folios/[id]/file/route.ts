import { z } from 'zod'
import { database } from '@/server/database'
import { startSavingFile, weightOfFile } from '@/server/folio-files'
import { readJson, route } from '@/server/guard'

/** How large the file would be. */
export const GET = route(async (_, { id }) => Response.json(await weightOfFile(await database(), id)))

/** Writes the folio with its rows as a file, in a job whose result says where to fetch it. */
export const POST = route(async (request, { id }) => {
  const { withFine } = await readJson(request, z.object({ withFine: z.boolean() }))
  return Response.json({ jobId: await startSavingFile(await database(), id, withFine) }, { status: 202 })
})
