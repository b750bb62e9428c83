import { z } from 'zod'
import { database } from '@/server/database'
import { inWindow } from '@/server/documents'
import { listFolios, makeFolio } from '@/server/folios'
import { jsonText, readJson, route } from '@/server/guard'

export const GET = route(async () => Response.json(await listFolios(await database())))

export const POST = route(async (request) => {
  const { name } = await readJson(request, z.object({ name: z.string().trim().min(1).max(200) }))
  return jsonText(inWindow(await makeFolio(await database(), name)), 201)
})
