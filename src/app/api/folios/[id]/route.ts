import { z } from 'zod'
import { maxSaveBytes } from '@/server/config'
import { database } from '@/server/database'
import { inWindow, openFolio } from '@/server/documents'
import { deleteFolio, renameFolio } from '@/server/folios'
import { saveSent } from '@/server/saves'
import { jsonText, readBody, readJson, route } from '@/server/guard'

export const GET = route(async (_, { id }) => jsonText(inWindow(await openFolio(await database(), id))))

export const PUT = route(async (request, { id }) => {
  const bytes = await readBody(request, { type: 'application/json', maxBytes: maxSaveBytes })
  return Response.json(await saveSent(await database(), id, bytes, request.signal))
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
