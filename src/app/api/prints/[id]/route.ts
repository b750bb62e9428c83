import { database } from '@/server/database'
import { route } from '@/server/guard'
import { deletePrint, readPrint } from '@/server/prints'

export const GET = route(async (_, { id }) => {
  const { bytes, fileName, mime } = await readPrint(await database(), id)
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': mime,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
    },
  })
})

export const DELETE = route(async (_, { id }) => {
  await deletePrint(await database(), id)
  return new Response(null, { status: 204 })
})
