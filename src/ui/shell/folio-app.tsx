'use client'
import { useEffect, useState } from 'react'
import type { OpenedFolio } from '@/server/folios'
import { restarts } from '@/workers/restarts'
import { paletteOf } from '@/core/folio/palette'
import { PaletteContext } from '../kit/colour-picker'
import { DataDesk } from '../data/data-desk'
import { BecomeDialog } from '../map/become/become-dialog'
import { MapDesk } from '../map/map-desk'
import { ProofDesk } from '../proof/proof-desk'
import { SheetDesk } from '../sheet/sheet-desk'
import { usePreparing } from './contents'
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

/**
 * One folio with its four desks. Desks are switched without leaving the page, so that undo reaches across
 * them.
 */
export function FolioApp({ opened }: { opened: OpenedFolio }) {
  const [ready, setReady] = useState(false)
  const [open, setOpen] = useState<'find' | 'keys' | 'versions' | null>(null)
  const desk = useFolio((state) => state.desk)

  useEffect(() => {
    useFolio.getState().adopt(opened.folio, opened.revision, opened.changedAt)
    useFolio.getState().openDesk(deskOfPath())
    setReady(true)
    const onBack = () => useFolio.getState().openDesk(deskOfPath())
    window.addEventListener('popstate', onBack)
    return () => window.removeEventListener('popstate', onBack)
  }, [opened])
  useEffect(() => {
    if (ready && deskOfPath() !== desk)
      window.history.pushState(null, '', `/folio/${opened.folio.id}/${desk}`)
  }, [desk, ready, opened.folio.id])
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

  if (!ready) return <p className="p-6 text-muted">Opening {opened.folio.name}…</p>
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
