'use client'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { FolioInWindow } from '@/server/documents'
import { Button } from '../kit/controls'
import { api } from './api'
import { saveNow } from './autosave'
import { useFolio } from './folio-store'
import { whenWords } from './time'

/** Two windows changed the folio. Both versions are kept already; the person says which one goes on. */
export function Refused() {
  const { save, history, adopt, setSave } = useFolio()
  const [problem, setProblem] = useState('')
  if (save.status !== 'refused') return null
  const { folio } = history
  const attempt = (work: () => Promise<void>) => () =>
    void work().catch((error: unknown) => setProblem(String(error instanceof Error ? error.message : error)))
  const takeTheirs = attempt(async () => {
    const theirs = await api<FolioInWindow>('GET', `/api/folios/${folio.id}`)
    adopt(theirs.folio, theirs.revision, theirs.changedAt)
  })
  const useMine = attempt(async () => {
    const theirs = await api<FolioInWindow>('GET', `/api/folios/${folio.id}`)
    setSave({ status: 'unsaved' }, theirs.revision)
    await saveNow()
  })
  const keepBoth = attempt(async () => {
    const made = await api<FolioInWindow>('POST', '/api/folios', { name: `${folio.name}, my version` })
    await api('PUT', `/api/folios/${made.folio.id}`, {
      baseRevision: made.revision,
      folio: { ...folio, id: made.folio.id ?? nanoid(), name: made.folio.name },
      label: 'Kept apart',
    })
    const theirs = await api<FolioInWindow>('GET', `/api/folios/${folio.id}`)
    adopt(theirs.folio, theirs.revision, theirs.changedAt)
  })
  return (
    <div
      role="alertdialog"
      aria-label="Changed in another window"
      className="floating fixed top-14 left-1/2 z-50 w-[560px] -translate-x-1/2 p-4"
    >
      <h2 className="font-serif text-[16px] font-semibold">This folio was changed in another window</h2>
      <p className="mt-1">
        Revision {save.revision} was saved there at {whenWords(save.changedAt)}. Your changes here are not in
        it. They are kept among the earlier versions, whatever you choose.
      </p>
      {problem && <p className="mt-2 text-error">{problem}</p>}
      <div className="mt-3 flex gap-2">
        <Button look="primary" onClick={takeTheirs}>
          Go on with the other version
        </Button>
        <Button onClick={useMine}>Go on with mine</Button>
        <Button onClick={keepBoth}>Put mine on the shelf as a folio of its own</Button>
      </div>
    </div>
  )
}
