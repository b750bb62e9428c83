'use client'
import type { Draft } from 'immer'
import { useEffect, useRef, useState } from 'react'
import { fontFamilies } from '@/core/scene/fonts'
import { GripVertical } from 'lucide-react'
import { ask } from '@/workers/client'
import type { LegendLinePlace } from '@/workers/scene.worker'
import { lineStyle } from '@/core/sheet/type-style'
import { useDocumentFonts } from '../../../kit/document-fonts'
import { TextField } from '../../../kit/text-field'
import { useSheetDrawn } from '../../../shell/contents'
import { folioNow, useFolio } from '../../../shell/folio-store'
import { editPart } from '../../edit-sheet'
import { changeWords } from './form'
import type { InsideProps } from '../inside-props'

/** The lines of a legend, each a field where it stands. */
export function InsideLegend({ sheet, part, box, scale, drawn, onLeave }: InsideProps<'legend'>) {
  const marked = useSheetDrawn(sheet)
  const [lines, setLines] = useState<LegendLinePlace[]>([])
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.legendLines(sheet.id, part.id)).then(
      (lines) => here && setLines(lines),
      () => undefined,
    )
    return () => void (here = false)
  }, [marked, sheet.id, part.id, drawn])
  const { titleStyle, heading, label, moved } = part.settings
  useDocumentFonts([titleStyle, heading, label].map((style) => lineStyle(style).font))
  const edit = (name: string, recipe: (settings: Draft<typeof part.settings>) => void, merge?: string) =>
    editPart(
      { sheetId: sheet.id, partId: part.id },
      name,
      (p) => p.type === 'legend' && recipe(p.settings),
      merge,
    )
  const reword = (line: LegendLinePlace, text: string) => {
    if (line.role === 'title') edit('Legend title', (s) => void (s.title = text))
    else if (line.role === 'note') edit('Legend note', (s) => void (s.note = text))
    else changeWords(edit, line.key, line.proposed, text)
  }
  return (
    <div className="absolute inset-0" onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      {lines.map((line) => {
        const isHeading = line.role === 'title' || line.role === 'heading'
        const headStyle = line.role === 'title' ? titleStyle : heading
        const style = isHeading ? headStyle : label
        const left = line.textX - box.x
        return (
          <div
            key={line.key}
            className="absolute"
            style={{
              left: left * scale - 3,
              top: (line.box.y - box.y) * scale,
              height: line.box.height * scale,
              width:
                isHeading || part.settings.form === 'upright'
                  ? Math.max(60, (box.width - left) * scale)
                  : Math.max(26, (line.box.width + line.box.x - line.textX) * scale + 10),
              fontFamily: `'${fontFamilies[style.family].label}', sans-serif`,
              fontWeight: style.weight,
            }}
          >
            <Grip
              label={`Move ${line.text}`}
              scale={scale}
              from={moved[line.key] ?? [0, 0]}
              onMove={(to) =>
                edit('Move a legend line', (s) => void (s.moved[line.key] = to), `move ${line.key}`)
              }
            />
            <TextField
              label={`Wording of ${line.proposed}`}
              value={line.text}
              className="!h-full !bg-white !px-0.5 !text-black"
              onChange={(text) => reword(line, text)}
            />
          </div>
        )
      })}
    </div>
  )
}

/** Pulls one line of the legend to another place of the sheet; it goes on following the map. */
function Grip({
  label,
  scale,
  from,
  onMove,
}: {
  label: string
  scale: number
  from: [number, number]
  onMove: (to: [number, number]) => void
}) {
  const start = useRef<{ x: number; y: number; from: [number, number] } | null>(null)
  const tidy = (mm: number) => Math.round(mm * 100) / 100
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="absolute top-0 -left-3 flex h-full w-3 cursor-move items-center justify-center text-primary opacity-60 hover:opacity-100"
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        start.current = { x: event.clientX, y: event.clientY, from }
      }}
      onPointerMove={(event) =>
        start.current &&
        onMove([
          tidy(start.current.from[0] + (event.clientX - start.current.x) / scale),
          tidy(start.current.from[1] + (event.clientY - start.current.y) / scale),
        ])
      }
      onPointerUp={() => {
        start.current = null
        useFolio.getState().seal()
      }}
      onKeyDown={(event) => {
        const step = (
          { ArrowLeft: [-0.5, 0], ArrowRight: [0.5, 0], ArrowUp: [0, -0.5], ArrowDown: [0, 0.5] } as Record<
            string,
            [number, number]
          >
        )[event.key]
        if (!step) return
        event.preventDefault()
        onMove([tidy(from[0] + step[0]), tidy(from[1] + step[1])])
      }}
    >
      <GripVertical size={12} aria-hidden />
    </button>
  )
}
