import { database } from '@/server/database'
import { openRevision } from '@/server/documents'
import { jsonText, route } from '@/server/guard'
import { notFound } from '@/server/problem'

export const GET = route(async (_, { id, revision }) => {
  if (!/^\d{1,12}$/.test(revision)) throw notFound('version')
  return jsonText(await openRevision(await database(), id, Number(revision)))
})
