import { database } from '@/server/database'
import { addDemo } from '@/server/demo'
import { inWindow } from '@/server/documents'
import { jsonText, route } from '@/server/guard'

export const POST = route(async () => jsonText(inWindow(await addDemo(await database())), 201))
