import { maxUploadBytes } from '@/server/config'
import { database } from '@/server/database'
import { openFolioFile } from '@/server/folios'
import { readBody, route } from '@/server/guard'

export const POST = route(async (request) => {
  const text = new TextDecoder().decode(await readBody(request, maxUploadBytes))
  return Response.json(await openFolioFile(await database(), text), { status: 201 })
})
