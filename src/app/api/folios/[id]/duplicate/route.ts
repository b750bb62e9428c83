import { database } from '@/server/database'
import { duplicateFolio } from '@/server/folios'
import { route } from '@/server/guard'

export const POST = route(async (_, { id }) =>
  Response.json(await duplicateFolio(await database(), id), { status: 201 }),
)
