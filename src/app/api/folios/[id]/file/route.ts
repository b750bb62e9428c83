import { database } from '@/server/database'
import { saveFolioFile } from '@/server/folios'
import { route } from '@/server/guard'

export const GET = route(async (_, { id }) => {
  const { name, text } = await saveFolioFile(await database(), id)
  const fileName = `${name.replace(/[^\p{L}\p{N}]+/gu, '-')}.keen.json`
  return new Response(text, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
    },
  })
})
