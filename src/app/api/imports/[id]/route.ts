import { ReadOptions } from '@/core/data/reading'
import { database } from '@/server/database'
import { readJson, route } from '@/server/guard'
import { startImport } from '@/server/imports'

/** Reads a kept file anew with other choices. */
export const POST = route(async (request, { id }) =>
  Response.json(
    { uploadId: id, jobId: await startImport(await database(), id, await readJson(request, ReadOptions)) },
    { status: 202 },
  ),
)
