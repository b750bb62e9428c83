import { familyOfFile } from '@/core/scene/fonts'
import { readFontFile } from '@/render/font-files'
import { route } from '@/server/guard'
import { notFound } from '@/server/problem'

export const GET = route(async (_, { file }) => {
  if (!familyOfFile(file)) throw notFound('font')
  return new Response(new Uint8Array(readFontFile(file)), {
    headers: { 'content-type': 'font/woff', 'cache-control': 'public, max-age=31536000, immutable' },
  })
})
