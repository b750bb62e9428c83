'use client'
import { useEffect, useRef } from 'react'
import type { Sheet } from '@/core/sheet/spec'
import { scenes, sendFolio } from '@/workers/client'
import { useDrawn } from '../shell/contents'
import { useDocument } from '../shell/folio-store'

/** A small picture of a sheet that follows it. */
export function SheetThumbnail({ sheet }: { sheet: Sheet }) {
  const folio = useDocument()
  const drawn = useDrawn()
  const canvas = useRef<HTMLCanvasElement>(null)
  const { widthMm, heightMm } = sheet.page
  useEffect(() => {
    let here = true
    const timer = setTimeout(async () => {
      await sendFolio(folio)
      const picture = await scenes().drawSheet(sheet.id, 160 / widthMm)
      if (!here || !picture || !canvas.current) return
      canvas.current.width = picture.bitmap.width
      canvas.current.height = picture.bitmap.height
      canvas.current.getContext('2d')?.drawImage(picture.bitmap, 0, 0)
    }, 400)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [folio, drawn, sheet.id, widthMm])
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="w-full bg-white"
      style={{ aspectRatio: `${widthMm} / ${heightMm}` }}
    />
  )
}
