import { ownFiles } from '@/server/config'
import { database } from '@/server/database'
import { startOpening } from '@/server/folio-files'
import { keepSent } from '@/server/sent-file'
import { bodyOf, route } from '@/server/guard'

/** Puts a folio file on the shelf, in a job. */
export const POST = route(async (request) => {
  const db = await database()
  const file = await keepSent(bodyOf(request, { type: 'application/octet-stream', maxBytes: ownFiles.folio }))
  return Response.json({ jobId: startOpening(db, file) }, { status: 202 })
})
