'use client'
import { Magnet, Maximize, Plus } from 'lucide-react'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { useEffect, useState } from 'react'
import { newPart, newSheet } from '@/core/sheet/new-sheet'
import { partTypeOf, type PartTypeId } from '@/core/sheet/registry'
import { pageSizeOf, type Part, type Sheet } from '@/core/sheet/spec'
import { Button, ColumnHead, IconButton, Select } from '../kit/controls'
import { usePrepared } from '../shell/contents'
import { ask } from '@/workers/client'
import { editFolio, folioNow, useDocument, useFolio } from '../shell/folio-store'
import { isTyping } from '../shell/typing'
import { ArrangeForm } from './arrange-form'
import { addPart } from './edit-sheet'
import { useFrameOf } from './frames'
import { PageForm } from './page-form'
import { PageStrip } from './page-strip'
import { Paper } from './paper/paper'
import type { Zoom } from './paper/zoom'
import { PartForm } from './parts/part-form'
import { Pile } from './pile'
import { useSelectedParts } from './selecting'
import { Choosing } from './templates/template-dialog'
import { Tray } from './tray'

/** Compose pages: strip of sheets, the paper, the settings of what is selected, and the pile. */
export function SheetDesk() {
  const folio = useDocument()
  const datasets = usePrepared()
  const { selection, select, tell } = useFolio()
  const sheet = folio.sheets.find((s) => s.id === selection.sheetId) ?? folio.sheets[0]
  const { parts: selected, last } = useSelectedParts(sheet)
  const [zoom, setZoom] = useState<Zoom>('fit')
  const [shownZoom, setShownZoom] = useState(1)
  const [snap, setSnap] = useState(true)
  const [entered, setEntered] = useState<string | null>(null)
  const [composing, setComposing] = useState(false)
  const frameOf = useFrameOf()
  const map = folio.maps.find((m) => m.id === selection.mapId) ?? folio.maps[0] ?? null

  const addSheet = () => {
    if (composing) return
    const name = map ? map.name : `Sheet ${folio.sheets.length + 1}`
    const plain = () => newSheet(map, datasets, { name, newId: () => nanoid(8) })
    const add = (made: Sheet) => {
      editFolio(`Add sheet ${made.name}`, (draft) => void draft.sheets.push(made as Draft<Sheet>))
      select({ sheetId: made.id, partIds: [] })
    }
    if (!map) return add(plain())
    // Composed beside the interface, where typefaces are; a worker that fails leaves sizes estimated.
    setComposing(true)
    void ask(folioNow(), (worker) => worker.firstSheet(map.id, name))
      .then(
        (made) => add(made ?? plain()),
        () => add(plain()),
      )
      .finally(() => setComposing(false))
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey) return
      const at = folio.sheets.findIndex((s) => s.id === sheet?.id)
      if (event.key === '[' || event.key === ']') {
        const next = folio.sheets[at + (event.key === ']' ? 1 : -1)]
        if (next) select({ sheetId: next.id, partIds: [] })
      } else if (event.key === 'f') setZoom('fit')
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [folio.sheets, sheet?.id, select])

  if (!sheet) return <NoSheets hasMap={map !== null} onAdd={addSheet} />
  const take = (type: PartTypeId, ready?: string) => {
    const made = newPart(type, nanoid(8), {
      sheet,
      ready,
      map,
      maps: folio.maps,
      datasets,
      pictures: folio.pictures,
      frameOf,
    })
    if (made) {
      addPart(sheet.id, made)
      // So that keys go to the part, not to the button that made it.
      document.querySelector<HTMLElement>('[aria-roledescription="page"]')?.focus()
    } else tell(`There is nothing yet for a new ${partTypeOf(type).label.toLowerCase()} to show.`)
  }
  return (
    <div className="grid h-full grid-cols-[104px_minmax(0,1fr)_300px]">
      <PageStrip sheets={folio.sheets} sheet={sheet} onAdd={addSheet} />
      <div className="relative flex min-h-0 min-w-0 flex-col">
        <div className="flex h-10 shrink-0 items-center justify-between gap-2 border-b border-line bg-base-100 px-2.5">
          <h2 className="min-w-0 truncate font-semibold">{titleOf(sheet, selected, entered)}</h2>
          <div className="flex shrink-0 items-center gap-2">
            <span className="truncate text-xs text-muted">{sizeWords(sheet)}</span>
            <IconButton
              label={snap ? 'Snapping is on' : 'Snapping is off'}
              aria-pressed={snap}
              active={snap}
              onClick={() => setSnap(!snap)}
            >
              <Magnet size={15} />
            </IconButton>
            <Select
              label="Zoom"
              className="!w-20"
              value={zoom === 'fit' ? 'fit' : String(zoom)}
              options={[
                { value: 'fit', label: `${Math.round(shownZoom * 100)} %` },
                ...[0.5, 0.75, 1, 1.5, 2, 3, 4].map((z) => ({ value: String(z), label: `${z * 100} %` })),
              ]}
              onChange={(value) => setZoom(value === 'fit' ? 'fit' : Number(value))}
            />
            <IconButton label="Fit the page" onClick={() => setZoom('fit')}>
              <Maximize size={15} />
            </IconButton>
          </div>
        </div>
        <Paper
          key={sheet.id}
          sheet={sheet}
          selected={selected}
          zoom={zoom}
          onZoom={setZoom}
          onShownZoom={setShownZoom}
          snap={snap}
          entered={entered}
          onEnter={setEntered}
        />
        <Tray hasMap={map !== null} onTake={take} />
      </div>
      <aside
        className="flex min-h-0 flex-col border-l border-line bg-base-100"
        aria-label="Settings and pile"
      >
        <div className="min-h-0 flex-1 overflow-y-auto">
          <SelectionForm sheet={sheet} selected={selected} last={last} />
        </div>
        <Pile sheet={sheet} selected={selected} />
      </aside>
    </div>
  )
}

/** What can be set of the selection: the page where nothing is selected, one part, or several together. */
function SelectionForm({ sheet, selected, last }: { sheet: Sheet; selected: Part[]; last: Part | null }) {
  const frameOf = useFrameOf()
  const arrange = (
    <ArrangeForm
      key={String(selected.length > 1)}
      sheet={sheet}
      parts={selected}
      last={last}
      frameOf={frameOf}
    />
  )
  const [only] = selected
  if (!only) return <PageForm sheet={sheet} />
  if (selected.length > 1)
    return (
      <>
        <ColumnHead title={`${selected.length} parts`} />
        {arrange}
      </>
    )
  return (
    <>
      <PartForm sheet={sheet} part={only} />
      {arrange}
    </>
  )
}

function titleOf(sheet: Sheet, selected: Part[], entered: string | null): string {
  const group = sheet.groups.find(({ id }) => id === entered)
  const inside = group ? `${group.name} › ` : ''
  if (!selected.length) return inside ? `${sheet.name} › ${group?.name ?? ''}` : sheet.name
  return inside + (selected.length === 1 ? selected[0].name : `${selected.length} parts`)
}

function sizeWords(sheet: Sheet): string {
  const size = pageSizeOf(sheet.page)
  const named = size ? `${size.name} ${size.landscape ? 'landscape' : 'upright'} · ` : ''
  return `${named}${sheet.page.widthMm} × ${sheet.page.heightMm} mm`
}

const NoSheets = ({ hasMap, onAdd }: { hasMap: boolean; onAdd: () => void }) => (
  <div className="h-full overflow-y-auto">
    <div className="mx-auto max-w-[1160px] px-6 py-5">
      <h2 className="font-serif text-lg font-semibold">The first page</h2>
      <div className="mt-0.5 mb-4 flex items-center gap-4">
        <p className="text-muted">
          {hasMap
            ? 'Composed for your map: title, legend where there is room, a scale bar where one is true, the source.'
            : 'A page can start empty; make a map first to have it composed.'}{' '}
          Or take one of the designs below.
        </p>
        <Button look="primary" className="ml-auto shrink-0" onClick={onAdd}>
          <Plus size={15} /> Add a sheet
        </Button>
      </div>
      <Choosing sheet={null} onClose={() => undefined} />
    </div>
  </div>
)
