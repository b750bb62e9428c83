import { database } from '@/server/database'
import { addDemo } from '@/server/demo'
import { route } from '@/server/guard'

export const POST = route(async () => Response.json(await addDemo(await database()), { status: 201 }))
