'use client'
import { useEffect, useState } from 'react'
import type { Folio } from '@/core/folio/schema'
import type { RevisionCard } from '@/server/documents'
import { Button } from '../kit/controls'
import { Dialog } from '../kit/popover'
import { api } from './api'
import { saved } from './autosave'
import { useDocument, useFolio } from './folio-store'
import { whenWords } from './time'

/** Earlier versions of the folio; going back to one is an edit like any other and can be undone. */
export function Versions({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { id } = useDocument()
  const revision = useFolio((state) => state.revision)
  const [cards, setCards] = useState<RevisionCard[] | null>(null)
  useEffect(() => {
    if (!open) return
    setCards(null)
    void saved().then(() => api<RevisionCard[]>('GET', `/api/folios/${id}/revisions`).then(setCards))
  }, [open, id])
  const restore = async (card: RevisionCard) => {
    const folio = await api<Folio>('GET', `/api/folios/${id}/revisions/${card.id}`)
    useFolio.getState().replace(`Back to revision ${card.number}`, folio)
    useFolio.getState().tell(`The folio is as it was in revision ${card.number}.`, true)
    onClose()
  }
  return (
    <Dialog open={open} onClose={onClose} title="Earlier versions">
      {!cards && <p className="text-muted">Looking them up…</p>}
      <ul className="flex flex-col gap-1">
        {cards?.map((card) => (
          <li
            key={card.id}
            className="flex items-center justify-between gap-3 rounded px-2 py-1 hover:bg-base-200"
          >
            <span className="min-w-0">
              <span className="font-medium">
                {card.kind === 'refused' ? 'Kept aside' : `Revision ${card.number}`}
              </span>
              <span className="ml-2 text-muted">{card.label}</span>
              <span className="block text-xs text-muted">{whenWords(card.savedAt)}</span>
            </span>
            {card.number === revision && card.kind === 'saved' ? (
              <span className="text-xs text-muted">now</span>
            ) : (
              <Button onClick={() => void restore(card)}>Go back to it</Button>
            )}
          </li>
        ))}
      </ul>
    </Dialog>
  )
}
