import { notFound } from 'next/navigation'
import { database } from '@/server/database'
import { openFolio } from '@/server/folios'
import { Problem } from '@/server/problem'
import { FolioApp } from '@/ui/shell/folio-app'

export const dynamic = 'force-dynamic'

export default async function FolioPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const opened = await openFolio(await database(), id).catch((error: unknown) => {
    if (error instanceof Problem && error.status === 404) notFound()
    throw error
  })
  return <FolioApp opened={opened} />
}
