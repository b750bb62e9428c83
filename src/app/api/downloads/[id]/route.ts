import { downloadOf } from '@/server/downloads'
import { route } from '@/server/guard'
import { sendFile } from '@/server/send-file'

export const GET = route(async (_, { id }) => sendFile(downloadOf(id), { 'cache-control': 'no-store' }))
