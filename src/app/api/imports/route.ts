import { maxUploadBytes } from '@/server/config'
import { database } from '@/server/database'
import { readBody, route } from '@/server/guard'
import { startImport } from '@/server/imports'

export const POST = route(async (request) => {
  const fileName = (new URL(request.url).searchParams.get('name') ?? '').replace(/^.*[\\/]/, '').slice(0, 200) || 'file'
  const bytes = await readBody(request, maxUploadBytes)
  return Response.json({ jobId: await startImport(await database(), fileName, bytes) }, { status: 202 })
})
