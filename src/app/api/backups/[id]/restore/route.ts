import { restoreBackup } from '@/server/backups/restore'
import { route } from '@/server/guard'

/** Brings a backup back; says where a damaged database was put aside. */
export const POST = route(async (_, { id }) => Response.json({ aside: await restoreBackup(id) }))
