import { database } from '@/server/database'
import { DatasetFileRequest, startExport } from '@/server/dataset-files'
import { readJson, route } from '@/server/guard'

/** Writes a dataset as a file, in a job whose result says where to fetch it. */
export const POST = route(async (request, { id, dataset }) => {
  const wanted = await readJson(request, DatasetFileRequest)
  const jobId = await startExport(await database(), { folioId: id, datasetId: dataset }, wanted)
  return Response.json({ jobId }, { status: 202 })
})
