import { database } from '@/server/database'
import { listRevisions } from '@/server/folios'
import { route } from '@/server/guard'

export const GET = route(async (_, { id }) => Response.json(await listRevisions(await database(), id)))
