import { readFile } from 'node:fs/promises'
import { contentFile } from '@/server/contents'
import { route } from '@/server/guard'

/** Stored rows never change under their id, so browsers may keep them. */
export const GET = route(
  async (_, { id }) =>
    new Response(new Uint8Array(await readFile(contentFile(id))), {
      headers: {
        'content-type': 'application/octet-stream',
        'cache-control': 'private, max-age=31536000, immutable',
      },
    }),
)
