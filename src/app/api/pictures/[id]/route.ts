import { route } from '@/server/guard'
import { pictureFile } from '@/server/pictures'
import { sendFile } from '@/server/send-file'

/**
 * Stored pictures never change under their id. They go out as plain bytes, not as what they are: a browser that is led
 * here shows no drawing from elsewhere.
 */
export const GET = route(async (_, { id }) =>
  sendFile(
    { file: pictureFile(id), mime: 'application/octet-stream' },
    { 'cache-control': 'private, max-age=31536000, immutable' },
  ),
)
