import { database } from '@/server/database'
import { restoreFolio } from '@/server/folios'
import { route } from '@/server/guard'

export const POST = route(async (_, { id }) => {
  await restoreFolio(await database(), id)
  return new Response(null, { status: 204 })
})
