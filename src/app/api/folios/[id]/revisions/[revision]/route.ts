import { database } from '@/server/database'
import { openRevision } from '@/server/folios'
import { route } from '@/server/guard'

export const GET = route(async (_, { id, revision }) =>
  Response.json(await openRevision(await database(), id, Number(revision))),
)
