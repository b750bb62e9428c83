import { database } from '@/server/database'
import { asksForWord } from '@/server/door/session'
import { ensureDemo } from '@/server/demo'
import { listFolios } from '@/server/folios'
import { Shelf } from '@/ui/shell/shelf'

export const dynamic = 'force-dynamic'

export default async function ShelfPage() {
  const db = await database()
  await ensureDemo(db)
  return <Shelf initial={await listFolios(db)} canLeave={asksForWord()} />
}
