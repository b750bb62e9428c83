import { z } from 'zod'
import { FolioError } from '@/core/folio/folio-error'
import { readFolio } from '@/core/folio/schema'
import { maxFolioBytes } from '@/server/config'
import { database } from '@/server/database'
import { deleteFolio, openFolio, renameFolio, saveFolio } from '@/server/folios'
import { readJson, route } from '@/server/guard'
import { Problem } from '@/server/problem'

export const GET = route(async (_, { id }) => Response.json(await openFolio(await database(), id)))

const Save = z.object({
  baseRevision: z.number().int().positive(),
  folio: z.unknown(),
  label: z.string().max(200),
  saveKey: z.string().max(60).optional(),
})

export const PUT = route(async (request, { id }) => {
  const { folio, ...save } = await readJson(request, Save, maxFolioBytes)
  return Response.json(await saveFolio(await database(), id, { ...save, folio: checked(folio) }))
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

function checked(folio: unknown) {
  try {
    return readFolio(folio)
  } catch (error) {
    if (error instanceof FolioError) throw new Problem(400, 'The folio cannot be saved', error.message)
    throw error
  }
}
