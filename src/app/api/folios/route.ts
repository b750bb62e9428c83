import { z } from 'zod'
import { database } from '@/server/database'
import { createFolio, newFolio, listFolios } from '@/server/folios'
import { readJson, route } from '@/server/guard'

export const GET = route(async () => Response.json(await listFolios(await database())))

export const POST = route(async (request) => {
  const { name } = await readJson(request, z.object({ name: z.string().trim().min(1).max(200) }))
  return Response.json(await createFolio(await database(), newFolio(name)), { status: 201 })
})
