import { maxUploadBytes } from '@/server/config'
import { database } from '@/server/database'
import { readBody, route } from '@/server/guard'
import { keepUpload, startImport } from '@/server/imports'

export const POST = route(async (request) => {
  const fileName =
    (new URL(request.url).searchParams.get('name') ?? '').replace(/^.*[\\/]/, '').slice(0, 200) || 'file'
  const bytes = await readBody(request, maxUploadBytes)
  const uploadId = await keepUpload(fileName, bytes)
  return Response.json({ uploadId, jobId: await startImport(await database(), uploadId) }, { status: 202 })
})
