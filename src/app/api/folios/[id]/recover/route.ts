import { database } from '@/server/database'
import { recoverFolio } from '@/server/documents'
import { route } from '@/server/guard'

/** Brings a damaged folio back as its last whole version was. */
export const POST = route(async (_, { id }) => {
  const { revision, changedAt } = await recoverFolio(await database(), id)
  return Response.json({ id, revision, changedAt })
})
