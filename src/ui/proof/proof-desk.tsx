'use client'
import { AlertTriangle, ArrowRight, CheckCircle2 } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { ProofLine } from '@/core/proof/registry'
import type { Sheet } from '@/core/sheet/spec'
import { pxPerMm } from '@/core/scene/units'
import { ask } from '@/workers/client'
import { Button, ColumnHead, IconButton, Segments, Select } from '../kit/controls'
import { useSize } from '../kit/use-size'
import { DrawingState } from '../drawing/drawing-state'
import { useSheetPicture } from '../drawing/use-sheet-picture'
import { useSheetDrawn } from '../shell/contents'
import { folioNow, useDocument, useFolio } from '../shell/folio-store'
import { ExportTicket } from './export-ticket'

/** The page as it will print, what the checks found, and the way out. */
export function ProofDesk() {
  const folio = useDocument()
  const { selection, select, openDesk } = useFolio()
  const sheet = folio.sheets.find((s) => s.id === selection.sheetId) ?? folio.sheets[0]
  if (!sheet)
    return (
      <div className="grid h-full place-items-center">
        <div className="text-center">
          <h2 className="font-serif text-lg font-semibold">There is no sheet to proof</h2>
          <Button look="primary" className="mt-4" onClick={() => openDesk('sheet')}>
            Compose a sheet
          </Button>
        </div>
      </div>
    )
  return (
    <div className="grid h-full grid-cols-[300px_minmax(0,1fr)_300px]">
      <aside className="flex min-h-0 flex-col border-r border-line bg-base-100" aria-label="Checks">
        <Checks sheet={sheet} />
      </aside>
      <div className="flex min-h-0 min-w-0 flex-col">
        {folio.sheets.length > 1 && (
          <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line bg-base-100 px-3">
            <span className="text-muted">Sheet</span>
            <Select
              label="Sheet"
              className="max-w-60"
              value={sheet.id}
              options={folio.sheets.map((s) => ({ value: s.id, label: s.name }))}
              onChange={(id) => select({ sheetId: id })}
            />
          </div>
        )}
        <ProofPage sheet={sheet} />
      </div>
      <aside
        className="flex min-h-0 flex-col overflow-y-auto border-l border-line bg-base-100"
        aria-label="Export"
      >
        <ExportTicket sheet={sheet} />
      </aside>
    </div>
  )
}

function Checks({ sheet }: { sheet: Sheet }) {
  const { select, openDesk } = useFolio()
  const drawn = useSheetDrawn(sheet)
  const [lines, setLines] = useState<ProofLine[] | null>(null)
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.proof(sheet.id)).then(
      (checks) => here && setLines(checks),
      () => undefined,
    )
    return () => void (here = false)
  }, [drawn, sheet.id])
  const open = lines?.filter((line) => !line.ok).length ?? 0
  const go = ({ target }: ProofLine) => {
    if (!target) return
    if (target.desk === 'map') select({ mapId: target.mapId, layerId: target.layerId })
    else if (target.desk === 'sheet')
      select({ sheetId: sheet.id, partIds: target.partId === null ? [] : [target.partId] })
    else select({ datasetId: target.datasetId })
    openDesk(target.desk)
  }
  return (
    <>
      <ColumnHead title="Checks">
        <span className="text-xs text-muted">
          {lines ? `${open ? `${open} to look at, ` : ''}${lines.length - open} passed` : 'looking…'}
        </span>
      </ColumnHead>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {lines?.map((line) => (
          <li key={line.id} className="flex items-start gap-2.5 border-b border-line px-3 py-2.5">
            {line.ok ? (
              <CheckCircle2 size={15} className="mt-0.5 shrink-0 text-good" aria-label="passed" />
            ) : (
              <AlertTriangle size={15} className="mt-0.5 shrink-0 text-caution" aria-label="to look at" />
            )}
            <span className="min-w-0 flex-1">
              <span className="block font-semibold">{line.title}</span>
              <span className="block text-xs break-words text-muted">{line.detail}</span>
            </span>
            {!line.ok && line.target && (
              <IconButton label={`Go to: ${line.title}`} onClick={() => go(line)}>
                <ArrowRight size={15} />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
    </>
  )
}

function ProofPage({ sheet }: { sheet: Sheet }) {
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [actual, setActual] = useState(false)
  const size = useSize(frame)
  const { widthMm, heightMm } = sheet.page
  const scale =
    actual || !size ? pxPerMm : Math.min((size.width - 48) / widthMm, (size.height - 110) / heightMm)
  const { state } = useSheetPicture(sheet, canvas, size ? scale : null)
  return (
    <div className="relative min-h-0 flex-1">
      <div
        ref={frame}
        className="absolute inset-0 overflow-auto bg-desk"
        role="region"
        aria-label="The page as it will print"
        tabIndex={0}
      >
        <div
          className="grid min-h-full min-w-full place-items-center p-5 pb-20"
          style={{ width: 'max-content' }}
        >
          <canvas
            ref={canvas}
            role="img"
            aria-label={`${sheet.name} as it will print`}
            className="bg-white shadow-[0_2px_10px_rgb(0_0_0/0.25)]"
            style={{ width: widthMm * scale, height: heightMm * scale }}
          />
        </div>
      </div>
      <DrawingState {...state} />
      <div className="floating absolute bottom-4 left-1/2 w-56 -translate-x-1/2 p-1">
        <Segments
          label="Size on screen"
          value={actual ? 'actual' : 'whole'}
          options={[
            { value: 'whole', label: 'Whole page' },
            { value: 'actual', label: 'Actual size' },
          ]}
          onChange={(next) => setActual(next === 'actual')}
        />
      </div>
    </div>
  )
}
