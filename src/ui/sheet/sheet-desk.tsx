'use client'
import { Magnet, Maximize, Plus, StickyNote, Trash2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import { pageSizeOf } from '@/core/sheet/spec'
import { Button, IconButton, Select } from '../kit/controls'
import { usePrepared } from '../shell/contents'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'
import { isTyping } from '../shell/typing'
import { addPart } from './edit-sheet'
import { newPart, newSheet } from './new-sheet'
import { Paper } from './paper'
import type { Zoom } from './zoom'
import { freePlace } from '@/core/sheet/free-place'
import { PageForm } from './page-form'
import { PartForm } from './parts/part-form'
import { Pile } from './pile'
import { SheetThumbnail } from './sheet-thumbnail'
import { Tray } from './tray'

/** Compose pages: strip of sheets, the paper, the settings of what is selected, and the pile. */
export function SheetDesk() {
  const folio = useDocument()
  const datasets = usePrepared()
  const { selection, select, tell } = useFolio()
  const sheet = folio.sheets.find((s) => s.id === selection.sheetId) ?? folio.sheets[0]
  const selected = sheet?.parts.find((p) => p.id === selection.partId) ?? null
  const [zoom, setZoom] = useState<Zoom>('fit')
  const [shownZoom, setShownZoom] = useState(1)
  const [snap, setSnap] = useState(true)
  const map = folio.maps.find((m) => m.id === selection.mapId) ?? folio.maps[0]

  const addSheet = () => {
    const made = newSheet(map, datasets, map ? map.name : `Sheet ${folio.sheets.length + 1}`)
    editFolio(`Add sheet ${made.name}`, (draft) => void draft.sheets.push(made))
    select({ sheetId: made.id, partId: null })
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey) return
      const at = folio.sheets.findIndex((s) => s.id === sheet?.id)
      if (event.key === '[' || event.key === ']') {
        const next = folio.sheets[at + (event.key === ']' ? 1 : -1)]
        if (next) select({ sheetId: next.id, partId: null })
      } else if (event.key === 'f') setZoom('fit')
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [folio.sheets, sheet?.id, select])

  if (!sheet)
    return (
      <div className="grid h-full place-items-center">
        <div className="max-w-sm text-center">
          <StickyNote size={26} className="mx-auto text-muted" aria-hidden />
          <h2 className="mt-3 font-serif text-lg font-semibold">No sheets yet</h2>
          <p className="mt-1 text-muted">
            {map
              ? 'The first one starts with your map, its legend, a scale bar and a source note in place.'
              : 'A sheet can start empty; make a map first to have it composed.'}
          </p>
          <Button look="primary" className="mt-4" onClick={addSheet}>
            <Plus size={15} /> Add a sheet
          </Button>
        </div>
      </div>
    )
  const size = pageSizeOf(sheet.page)
  return (
    <div className="grid h-full grid-cols-[104px_minmax(0,1fr)_300px]">
      <aside
        className="flex min-h-0 flex-col gap-2 overflow-y-auto border-r border-line bg-base-100 p-2"
        aria-label="Sheets"
      >
        {folio.sheets.map((s) => (
          <button
            key={s.id}
            type="button"
            aria-current={s.id === sheet.id}
            onClick={() => select({ sheetId: s.id, partId: null })}
            className={`rounded border p-1 text-left ${s.id === sheet.id ? 'border-primary ring-1 ring-primary' : 'border-line hover:border-muted'}`}
          >
            <SheetThumbnail sheet={s} />
            <span className="mt-1 block truncate text-xs">{s.name}</span>
          </button>
        ))}
        <Button onClick={addSheet}>
          <Plus size={15} /> Sheet
        </Button>
        {folio.sheets.length > 1 && (
          <Button
            look="quiet"
            title="Delete this sheet"
            onClick={() => {
              editFolio(
                `Delete ${sheet.name}`,
                (draft) => void (draft.sheets = draft.sheets.filter((s) => s.id !== sheet.id)),
              )
              tell(`“${sheet.name}” was deleted.`, true)
            }}
          >
            <Trash2 size={14} /> Delete
          </Button>
        )}
      </aside>
      <div className="relative flex min-h-0 min-w-0 flex-col">
        <div className="flex h-10 shrink-0 items-center justify-between border-b border-line bg-base-100 px-2.5">
          <h2 className="truncate font-semibold">{selected?.name ?? sheet.name}</h2>
          <div className="flex items-center gap-2">
            <span className="truncate text-xs text-muted">
              {size ? `${size.name} ${size.landscape ? 'landscape' : 'upright'} · ` : ''}
              {sheet.page.widthMm} × {sheet.page.heightMm} mm
            </span>
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
        />
        <Tray
          disabled={(type) => type !== 'text' && !map}
          onTake={(type) => {
            const made = newPart(type, sheet, map, datasets)
            if (made) addPart(sheet.id, { ...made, box: freePlace(sheet, made.box) })
          }}
        />
      </div>
      <aside
        className="flex min-h-0 flex-col border-l border-line bg-base-100"
        aria-label="Settings and pile"
      >
        <div className="min-h-0 flex-1 overflow-y-auto">
          {selected ? <PartForm sheet={sheet} part={selected} /> : <PageForm sheet={sheet} />}
        </div>
        <Pile sheet={sheet} />
      </aside>
    </div>
  )
}
