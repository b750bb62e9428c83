'use client'
import { useEffect, useRef } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { useSheetDrawn } from '../shell/contents'
import { folioNow } from '../shell/folio-store'

/** The sheet as it is when its turn comes; a picture that could not be drawn is left as it was. */
const drawnSheet = (sheetId: string, pixelsPerMm: number) =>
  ask(folioNow(), (worker) => worker.drawSheet(sheetId, pixelsPerMm)).catch(() => null)

/** A small picture of a sheet that follows it. */
export function SheetThumbnail({ sheet }: { sheet: Sheet }) {
  const drawn = useSheetDrawn(sheet)
  const canvas = useRef<HTMLCanvasElement>(null)
  const { widthMm, heightMm } = sheet.page
  useEffect(() => {
    let here = true
    const timer = setTimeout(async () => {
      const picture = await drawnSheet(sheet.id, 160 / widthMm)
      if (!here || !picture || !canvas.current) return
      canvas.current.width = picture.bitmap.width
      canvas.current.height = picture.bitmap.height
      canvas.current.getContext('2d')?.drawImage(picture.bitmap, 0, 0)
    }, 400)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [drawn, sheet.id, widthMm])
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="w-full bg-white"
      style={{ aspectRatio: `${widthMm} / ${heightMm}` }}
    />
  )
}
