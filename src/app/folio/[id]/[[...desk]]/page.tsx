import { notFound } from 'next/navigation'
import { database } from '@/server/database'
import { nameOf } from '@/server/folios'
import { FolioApp } from '@/ui/shell/folio-app'

export const dynamic = 'force-dynamic'

/** The folio itself is fetched by the window, as the text that is stored. */
export default async function FolioPage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  const name = await nameOf(await database(), id)
  if (name === null) notFound()
  return <FolioApp id={id} name={name} />
}
