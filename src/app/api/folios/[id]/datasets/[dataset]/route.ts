import { database } from '@/server/database'
import { datasetFile, DatasetFileRequest } from '@/server/dataset-files'
import { route } from '@/server/guard'
import { Problem } from '@/server/problem'

export const GET = route(async (request, { id, dataset }) => {
  const wanted = DatasetFileRequest.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!wanted.success)
    throw new Problem(400, 'The request cannot be understood', wanted.error.issues[0].message)
  const { fileName, bytes } = await datasetFile(await database(), id, dataset, wanted.data)
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
    },
  })
})
