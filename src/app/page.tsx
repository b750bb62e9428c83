import { listBackups } from '@/server/backups/backups'
import { calmProblem } from '@/server/calm'
import { database, isInPlace, lostCodes } from '@/server/database'
import { ensureDemo } from '@/server/demo'
import { asksForWord } from '@/server/door/session'
import { listFolios } from '@/server/folios'
import { LostDatabase } from '@/ui/shell/backups/lost-database'
import { Shelf } from '@/ui/shell/shelf'

export const dynamic = 'force-dynamic'

export default async function ShelfPage() {
  try {
    return await shelf()
  } catch (error) {
    const { title, detail, more } = calmProblem(error)
    if (!lostCodes.has(String(more.code))) throw error
    console.error(error)
    return <LostDatabase title={title} detail={detail} />
  }
}

async function shelf() {
  const db = await database()
  const isMoved = !isInPlace(db)
  if (!isMoved) await ensureDemo(db)
  const backups = isMoved ? [] : await listBackups()
  return (
    <Shelf
      initial={await listFolios(db)}
      canLeave={asksForWord()}
      lastBackup={backups[0]?.madeAt ?? null}
      isMoved={isMoved}
    />
  )
}
