import { familyOfFile } from '@/core/scene/fonts'
import { readFontFile } from '@/render/font-files'
import { route } from '@/server/guard'
import { notFound } from '@/server/problem'

/** Fonts that ship; they are no secret. */
export const GET = route(
  async (_, { file }) => {
    const bytes = familyOfFile(file) && fontBytes(file)
    if (!bytes) throw notFound('font')
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'font/woff', 'cache-control': 'public, max-age=31536000, immutable' },
    })
  },
  { open: true },
)

function fontBytes(file: string): Uint8Array | null {
  try {
    return readFontFile(file)
  } catch {
    return null
  }
}
