'use client'
import { useCallback, useEffect, useMemo, useRef, type RefObject } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { useSheetDrawn } from '../shell/contents'
import { folioNow } from '../shell/folio-store'
import { useDrawing } from './use-drawing'
import { useStoppable } from './use-stoppable'

/** What has been drawn for so long is let go for something newer, ms; before, it is as well shown first. */
const worthFinishing = 500

/** The picture of a sheet on a canvas, at so many CSS pixels for each millimetre; null waits. */
export function useSheetPicture(
  sheet: Sheet,
  canvas: RefObject<HTMLCanvasElement | null>,
  scale: number | null,
) {
  const drawn = useSheetDrawn(sheet)
  const work = useStoppable('sheet')
  const { again, halted, begin, end, drop } = work
  const now = useMemo(
    () =>
      scale === null
        ? null
        : { drawn, sheet, sheetId: sheet.id, density: scale * (window.devicePixelRatio || 1), again },
    [drawn, sheet, scale, again],
  )
  // What was stopped stays so while only data arrive that were still on their way.
  const asked = useRef(now)
  const stays =
    halted &&
    asked.current?.sheet === sheet &&
    asked.current.density === now?.density &&
    asked.current.again === again
  if (!stays) asked.current = now
  const wanted = asked.current
  const began = useRef(0)
  const draw = useCallback(
    async ({ sheetId, density }: NonNullable<typeof wanted>) => {
      const tell = begin()
      began.current = performance.now()
      return ask(folioNow(), (worker) => worker.drawSheet(sheetId, density, false, tell)).finally(end)
    },
    [begin, end],
  )
  const dropLate = useCallback(() => {
    if (performance.now() - began.current > worthFinishing) drop()
  }, [drop])
  const { result, problem, late, forget } = useDrawing(wanted, draw, dropLate)
  useEffect(() => {
    if (!result || !canvas.current) return
    canvas.current.width = result.bitmap.width
    canvas.current.height = result.bitmap.height
    canvas.current.getContext('2d')?.drawImage(result.bitmap, 0, 0)
  }, [result, canvas])
  return {
    result,
    wanted,
    state: { what: 'sheet' as const, drawn: result !== null, late, problem, forget, work },
  }
}
