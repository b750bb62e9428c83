import { database } from '@/server/database'
import { checkFolio, getThumbnail, putThumbnail } from '@/server/folios'
import { readBody, route } from '@/server/guard'
import { Problem } from '@/server/problem'

export const GET = route(
  async (_, { id }) =>
    new Response(new Uint8Array(await getThumbnail(await database(), id)), {
      headers: { 'content-type': 'image/png', 'cache-control': 'no-cache' },
    }),
)

export const PUT = route(async (request, { id }) => {
  const bytes = await readBody(request, { type: 'image/png', maxBytes: 2 * 1024 * 1024 })
  if (bytes[0] !== 0x89 || bytes[1] !== 0x50) throw new Problem(400, 'The thumbnail is not a PNG')
  const db = await database()
  await checkFolio(db, id)
  await putThumbnail(db, id, Buffer.from(bytes))
  return new Response(null, { status: 204 })
})
