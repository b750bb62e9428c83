'use client'
import { useCallback, useEffect, useMemo, type RefObject } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { useDrawing } from '../../map/use-drawing'
import { useSheetDrawn } from '../../shell/contents'
import { folioNow } from '../../shell/folio-store'
import { useDrawnBoxes } from '../frames'

/** The picture of a sheet on a canvas, as fine as it is shown; how large its parts came out is kept with it. */
export function usePaperDrawing(
  sheet: Sheet,
  canvas: RefObject<HTMLCanvasElement | null>,
  { scale, ready }: { scale: number; ready: boolean },
) {
  const drawn = useSheetDrawn(sheet)
  const wanted = useMemo(
    () => (ready ? { drawn, sheetId: sheet.id, density: scale * (window.devicePixelRatio || 1) } : null),
    [drawn, sheet.id, scale, ready],
  )
  const draw = useCallback(
    ({ sheetId, density }: NonNullable<typeof wanted>) =>
      ask(folioNow(), (worker) => worker.drawSheet(sheetId, density)),
    [],
  )
  const { result, problem, late } = useDrawing(wanted, draw)
  useEffect(() => {
    if (!result || !canvas.current) return
    canvas.current.width = result.bitmap.width
    canvas.current.height = result.bitmap.height
    canvas.current.getContext('2d')?.drawImage(result.bitmap, 0, 0)
    useDrawnBoxes.setState({ boxes: result.boxes })
  }, [result, canvas])

  return { result, problem, late, wanted }
}
