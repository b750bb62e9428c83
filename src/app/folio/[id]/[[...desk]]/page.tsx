import { notFound } from 'next/navigation'
import { database } from '@/server/database'
import { openFolio, type Damage } from '@/server/folios'
import { Problem } from '@/server/problem'
import { DamagedFolio } from '@/ui/shell/damaged'
import { FolioApp } from '@/ui/shell/folio-app'

export const dynamic = 'force-dynamic'

export default async function FolioPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const opened = await openFolio(await database(), id).catch((error: unknown) => {
    if (error instanceof Problem) return error
    throw error
  })
  if (!(opened instanceof Problem)) return <FolioApp opened={opened} />
  if (opened.status === 404) notFound()
  return <DamagedFolio id={id} damage={opened.more.damage as Damage} />
}
