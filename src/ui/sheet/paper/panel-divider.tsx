'use client'
import { useCallback, useEffect, useMemo, useRef } from 'react'
import { middleOf, type Frame } from '@/core/sheet/frame'
import { panelView, type PanelPart } from '@/core/sheet/panel-view'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { againstWords, farSheet } from '../../compare/against'
import { beyond, Divider } from '../../compare/divider'
import { useComparing } from '../../compare/store'
import { useDrawing } from '../../drawing/use-drawing'
import { usePrepared, useSheetDrawn } from '../../shell/contents'
import { folioNow, useDocument } from '../../shell/folio-store'

/**
 * A divider across the panel that is taken: beyond it lies the page as it would be without a layer, or with another
 * map in the panel.
 */
export function PanelDivider({
  sheet,
  panel,
  frame,
  scale,
}: {
  sheet: Sheet
  panel: PanelPart
  frame: Frame
  scale: number
}) {
  const { maps, typeStyles } = useDocument()
  const datasets = usePrepared()
  const against = useComparing((state) => state.against[panel.id] ?? null)
  const share = useComparing((state) => state.share)
  const drawn = useSheetDrawn(sheet)
  const map = against && (panelView(panel, sheet, { maps, datasets })?.map ?? null)
  const words = against && map ? againstWords(against, map, maps) : null
  const canvas = useRef<HTMLCanvasElement>(null)
  const widthPx = Math.round(sheet.page.widthMm * scale * (window.devicePixelRatio || 1))
  const wanted = useMemo(() => {
    const far = against && farSheet(against, sheet, { panel, maps })
    return far && { far, typeStyles, widthPx }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the data behind the maps may have changed
  }, [against, sheet, panel, maps, typeStyles, widthPx, drawn])
  const draw = useCallback(
    ({ far, typeStyles, widthPx }: NonNullable<typeof wanted>) =>
      ask(folioNow(), (worker) => worker.previewSheet(far, typeStyles, widthPx)),
    [],
  )
  const { result, problem } = useDrawing(wanted, draw)
  useEffect(() => {
    if (!result || !canvas.current || result.width === 0) return
    canvas.current.width = result.width
    canvas.current.height = result.height
    canvas.current.getContext('2d')?.drawImage(result, 0, 0)
  }, [result])
  if (!words || !map) return null
  const { box, rotationDeg } = frame
  const { x, y, width, height } = box
  // What is seen beyond is a page that is not turned: it is turned back about the same middle.
  const [middleX, middleY] = middleOf(box)
  return (
    <div
      className="absolute"
      style={{
        ...{ left: x * scale, top: y * scale, width: width * scale, height: height * scale },
        transform: `rotate(${rotationDeg}deg)`,
      }}
    >
      <div
        className="pointer-events-none absolute inset-0 overflow-hidden"
        style={{ clipPath: beyond(share) }}
      >
        <canvas
          ref={canvas}
          aria-hidden
          className="absolute max-w-none"
          style={{
            left: -x * scale,
            top: -y * scale,
            width: sheet.page.widthMm * scale,
            height: sheet.page.heightMm * scale,
            transform: `rotate(${-rotationDeg}deg)`,
            transformOrigin: `${middleX * scale}px ${middleY * scale}px`,
          }}
        />
        {problem && <p className="absolute inset-0 grid place-items-center text-error">{problem}</p>}
      </div>
      <Divider near={map.name} far={words} turnDeg={rotationDeg} />
    </div>
  )
}
