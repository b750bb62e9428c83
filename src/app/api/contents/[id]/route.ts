import { contentFile } from '@/server/contents'
import { route } from '@/server/guard'
import { sendFile } from '@/server/send-file'

/** Stored rows never change under their id, so browsers may keep them. */
export const GET = route(async (_, { id }) =>
  sendFile(
    { file: contentFile(id), mime: 'application/octet-stream' },
    { 'cache-control': 'private, max-age=31536000, immutable' },
  ),
)
