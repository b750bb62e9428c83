import { maxFolioFileBytes } from '@/server/config'
import { database } from '@/server/database'
import { keepFolioFile, startOpening } from '@/server/folio-files'
import { bodyOf, route } from '@/server/guard'

/** Puts a folio file on the shelf, in a job. */
export const POST = route(async (request) => {
  const db = await database()
  const file = await keepFolioFile(
    bodyOf(request, { type: 'application/octet-stream', maxBytes: maxFolioFileBytes }),
  )
  return Response.json({ jobId: startOpening(db, file) }, { status: 202 })
})
