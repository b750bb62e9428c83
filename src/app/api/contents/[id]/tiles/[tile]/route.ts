import { storedTile } from '@/server/contents'
import { route } from '@/server/guard'
import { notFound } from '@/server/problem'

/** A tile of fine cells, named by its level, band, column and row. They never change under the id of their rows. */
export const GET = route(async (_, { id, tile }) => {
  const place = /^(\d{1,2})-(\d{1,2})-(\d{1,6})-(\d{1,6})$/.exec(tile)?.slice(1).map(Number)
  if (!place) throw notFound('tile')
  const [level, band, column, row] = place
  return new Response(storedTile(id, { level, band, column, row }).slice(), {
    headers: {
      'content-type': 'application/octet-stream',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
})
