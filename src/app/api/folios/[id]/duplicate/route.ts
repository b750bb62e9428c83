import { database } from '@/server/database'
import { inWindow } from '@/server/documents'
import { duplicateFolio } from '@/server/folios'
import { jsonText, route } from '@/server/guard'

export const POST = route(async (_, { id }) =>
  jsonText(inWindow(await duplicateFolio(await database(), id)), 201),
)
