import { database } from '@/server/database'
import { readJson, route } from '@/server/guard'
import { listPrints, PrintRequest, startPrint } from '@/server/prints'

export const GET = route(async (_, { id }) => Response.json(await listPrints(await database(), id)))

export const POST = route(async (request, { id }) => {
  const wanted = await readJson(request, PrintRequest)
  return Response.json({ jobId: await startPrint(await database(), id, wanted) }, { status: 202 })
})
