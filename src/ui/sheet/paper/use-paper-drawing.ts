'use client'
import { useEffect, type RefObject } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { useSheetPicture } from '../../drawing/use-sheet-picture'
import { useDrawnBoxes } from '../frames'

/** The picture of a sheet on a canvas, as fine as it is shown; how large its parts came out is kept with it. */
export function usePaperDrawing(
  sheet: Sheet,
  canvas: RefObject<HTMLCanvasElement | null>,
  { scale, ready }: { scale: number; ready: boolean },
) {
  const picture = useSheetPicture(sheet, canvas, ready ? scale : null)
  const { result } = picture
  useEffect(() => {
    if (result) useDrawnBoxes.setState({ boxes: result.boxes })
  }, [result])
  return picture
}
