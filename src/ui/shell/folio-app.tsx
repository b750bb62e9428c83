'use client'
import { useEffect, useState } from 'react'
import type { Damage, FolioInWindow } from '@/server/documents'
import { restarts } from '@/workers/restarts'
import { paletteOf } from '@/core/folio/palette'
import { Button } from '../kit/controls'
import { PaletteContext } from '../kit/colour-picker'
import { DataDesk } from '../data/data-desk'
import { BecomeDialog } from '../map/become/become-dialog'
import { MapDesk } from '../map/map-desk'
import { ProofDesk } from '../proof/proof-desk'
import { SheetDesk } from '../sheet/sheet-desk'
import { api, ApiProblem } from './api'
import { usePreparing } from './contents'
import { DamagedFolio } from './damaged'
import { useAutosave } from './autosave'
import { useBackgroundChecks } from '../data/border-checks'
import { Finder } from './finder'
import { desks, useFolio, type Desk } from './folio-store'
import { KeyHelp } from './key-help'
import { Notice } from './notice'
import { Refused } from './refused'
import { StepsUnderWay } from './steps-under-way'
import { useThumbnail } from './thumbnail'
import { TopBar } from './top-bar'
import { isTyping } from './typing'
import { Unsaved } from './unsaved'
import { Versions } from './versions'

const coloursInUse = () => paletteOf(useFolio.getState().history.folio)

const deskOfPath = (): Desk => desks.find((desk) => location.pathname.endsWith(`/${desk}`)) ?? 'data'

/** Fetches a folio into the store, once for each that is opened. */
function useOpening(id: string): { ready: boolean; problem: ApiProblem | null } {
  const [ready, setReady] = useState(false)
  const [problem, setProblem] = useState<ApiProblem | null>(null)
  useEffect(() => {
    const left = new AbortController()
    api<FolioInWindow>('GET', `/api/folios/${id}`, undefined, left.signal).then(
      ({ folio, revision, changedAt }) => {
        if (left.signal.aborted) return
        useFolio.getState().adopt(folio, revision, changedAt)
        useFolio.getState().openDesk(deskOfPath())
        setReady(true)
      },
      (error: unknown) => {
        if (!left.signal.aborted)
          setProblem(error instanceof ApiProblem ? error : new ApiProblem(0, String(error), '', {}))
      },
    )
    return () => left.abort()
  }, [id])
  return { ready, problem }
}

function NotOpened({ problem: { title, detail } }: { problem: ApiProblem }) {
  return (
    <main className="grid h-full place-items-center">
      <div role="alert" className="max-w-sm text-center">
        <h1 className="font-serif text-xl font-semibold">This folio could not be opened</h1>
        <p className="mt-2 text-muted">{[title, detail].filter(Boolean).join('. ')}</p>
        <Button look="primary" className="mt-4" onClick={() => window.location.reload()}>
          Try again
        </Button>
      </div>
    </main>
  )
}

/**
 * One folio with its four desks. Desks are switched without leaving the page, so that undo reaches across
 * them.
 */
export function FolioApp({ id, name }: { id: string; name: string }) {
  const { ready, problem } = useOpening(id)
  const [open, setOpen] = useState<'find' | 'keys' | 'versions' | null>(null)
  const desk = useFolio((state) => state.desk)

  useEffect(() => {
    const onBack = () => useFolio.getState().openDesk(deskOfPath())
    window.addEventListener('popstate', onBack)
    return () => window.removeEventListener('popstate', onBack)
  }, [])
  useEffect(() => {
    if (ready && deskOfPath() !== desk) window.history.pushState(null, '', `/folio/${id}/${desk}`)
  }, [desk, ready, id])
  useEffect(
    () =>
      restarts.hear(() =>
        useFolio.getState().tell('Drawing broke off and was started again. Nothing of the folio is lost.'),
      ),
    [],
  )
  useAutosave()
  useBackgroundChecks()
  usePreparing()
  useThumbnail()

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { undo, redo, openDesk } = useFolio.getState()
      const command = event.ctrlKey || event.metaKey
      if (command && event.key.toLowerCase() === 'z' && !isTyping(event)) (event.shiftKey ? redo : undo)()
      else if (command && event.key.toLowerCase() === 'y' && !isTyping(event)) redo()
      else if (command || event.altKey || isTyping(event) || document.querySelector('[role="dialog"]')) return
      else if (['1', '2', '3', '4'].includes(event.key)) openDesk(desks[Number(event.key) - 1])
      else if (event.key === '/') setOpen('find')
      else if (event.key === '?') setOpen('keys')
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  if (problem?.more.damage) return <DamagedFolio id={id} damage={problem.more.damage as Damage} />
  if (problem) return <NotOpened problem={problem} />
  if (!ready) return <p className="p-6 text-muted">Opening {name}…</p>
  return (
    <PaletteContext value={coloursInUse}>
      <div className="flex h-full flex-col">
        <TopBar
          onFind={() => setOpen('find')}
          onKeys={() => setOpen('keys')}
          onVersions={() => setOpen('versions')}
        />
        <Unsaved />
        <main className="relative min-h-0 flex-1" aria-label={`${desk} desk`}>
          {desk === 'data' && <DataDesk />}
          {desk === 'map' && <MapDesk />}
          {desk === 'sheet' && <SheetDesk />}
          {desk === 'proof' && <ProofDesk />}
        </main>
        <StepsUnderWay />
        <Notice />
        <Refused />
        <BecomeDialog />
        <Finder open={open === 'find'} onClose={() => setOpen(null)} />
        <KeyHelp open={open === 'keys'} onClose={() => setOpen(null)} />
        <Versions open={open === 'versions'} onClose={() => setOpen(null)} />
      </div>
    </PaletteContext>
  )
}
