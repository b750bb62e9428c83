import { database } from '@/server/database'
import { route } from '@/server/guard'
import { deletePrint, readPrint } from '@/server/prints'
import { sendFile } from '@/server/send-file'

export const GET = route(async (_, { id }) => sendFile(await readPrint(await database(), id)))

export const DELETE = route(async (_, { id }) => {
  await deletePrint(await database(), id)
  return new Response(null, { status: 204 })
})
