import { maxArchiveBytes, maxRasterBytes, maxUploadBytes } from '@/server/config'
import { database } from '@/server/database'
import { bodyOf, route } from '@/server/guard'
import { keepUpload, startImport } from '@/server/imports'

export const POST = route(async (request) => {
  const db = await database()
  const fileName =
    (new URL(request.url).searchParams.get('name') ?? '').replace(/^.*[\\/]/, '').slice(0, 200) || 'file'
  const uploadId = await keepUpload(
    fileName,
    bodyOf(request, {
      type: 'application/octet-stream',
      maxBytes: mostBytesOf(fileName),
    }),
  )
  return Response.json({ uploadId, jobId: await startImport(db, uploadId) }, { status: 202 })
})

/** How much may be sent under a name. */
function mostBytesOf(fileName: string): number {
  if (/\.tiff?$/i.test(fileName)) return maxRasterBytes
  return /\.zip$/i.test(fileName) ? maxArchiveBytes : maxUploadBytes
}
