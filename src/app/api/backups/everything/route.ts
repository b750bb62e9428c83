import { startBringingBack, startPackingEverything } from '@/server/backups/everything'
import { maxEverythingBytes } from '@/server/config'
import { database } from '@/server/database'
import { bodyOf, route } from '@/server/guard'
import { keepSent } from '@/server/sent-file'

/** Writes a file of everything, in a job whose result says where to fetch it. */
export const POST = route(async () =>
  Response.json({ jobId: await startPackingEverything(await database()) }, { status: 202 }),
)

/** Brings back what such a file holds, in a job. */
export const PUT = route(async (request) => {
  const body = bodyOf(request, { type: 'application/octet-stream', maxBytes: maxEverythingBytes })
  return Response.json({ jobId: startBringingBack(await keepSent(body)) }, { status: 202 })
})
