'use client'
import { useEffect, useRef, useState } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { ask } from '@/workers/client'
import { useSheetDrawn } from '../shell/contents'
import { folioNow } from '../shell/folio-store'

/** One small picture is drawn at a time, so that the page itself never waits for more than one of them. */
let turn: Promise<unknown> = Promise.resolve()

/**
 * The sheet as it is when its turn comes, layers that take long shown roughly; a picture that could not be drawn is
 * left as it was.
 */
function drawnSheet(sheetId: string, pixelsPerMm: number, isWanted: () => boolean) {
  const drawn = turn.then(() =>
    isWanted()
      ? ask(folioNow(), (worker) => worker.drawSheet(sheetId, pixelsPerMm, true)).catch(() => null)
      : null,
  )
  turn = drawn
  return drawn
}

/** A small picture of a sheet that follows it. */
export function SheetThumbnail({ sheet }: { sheet: Sheet }) {
  const drawn = useSheetDrawn(sheet)
  const canvas = useRef<HTMLCanvasElement>(null)
  const { widthMm, heightMm } = sheet.page
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    if (!canvas.current) return
    // Pictures further along the strip are drawn once somebody comes to them.
    const watch = new IntersectionObserver(
      (entries) => entries.some((one) => one.isIntersecting) && setSeen(true),
    )
    watch.observe(canvas.current)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    if (!seen) return
    let here = true
    const timer = setTimeout(async () => {
      const picture = await drawnSheet(sheet.id, 160 / widthMm, () => here)
      if (!here || !picture || !canvas.current) return
      canvas.current.width = picture.bitmap.width
      canvas.current.height = picture.bitmap.height
      canvas.current.getContext('2d')?.drawImage(picture.bitmap, 0, 0)
    }, 400)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [seen, drawn, sheet.id, widthMm])
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="w-full bg-white"
      style={{ aspectRatio: `${widthMm} / ${heightMm}` }}
    />
  )
}
