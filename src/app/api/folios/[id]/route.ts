import { z } from 'zod'
import { maxFolioBytes } from '@/server/config'
import { database } from '@/server/database'
import { deleteFolio, openFolio, renameFolio, saveSent } from '@/server/folios'
import { readBody, readJson, route } from '@/server/guard'

export const GET = route(async (_, { id }) => Response.json(await openFolio(await database(), id)))

export const PUT = route(async (request, { id }) => {
  const bytes = await readBody(request, { type: 'application/json', maxBytes: maxFolioBytes })
  return Response.json(await saveSent(await database(), id, bytes))
})

export const PATCH = route(async (request, { id }) => {
  const { name } = await readJson(request, z.object({ name: z.string().trim().min(1).max(200) }))
  await renameFolio(await database(), id, name)
  return new Response(null, { status: 204 })
})

export const DELETE = route(async (_, { id }) => {
  await deleteFolio(await database(), id)
  return new Response(null, { status: 204 })
})
