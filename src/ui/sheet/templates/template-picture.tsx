'use client'
import { nanoid } from 'nanoid'
import { useEffect, useRef } from 'react'
import type { Prepared } from '@/core/data/prepare'
import type { Folio } from '@/core/folio/schema'
import { proposedRoles, sheetFromTemplate, withStandIns, type SheetTemplate } from '@/core/sheet/template'
import { ask } from '@/workers/client'

/** Pictures are drawn so wide, in CSS pixels. */
const pictureWidth = 150

type Props = { template: SheetTemplate; folio: Folio; datasets: Map<string, Prepared> }

/** A template as it would look with the maps of a folio; with none, its panels are empty. */
export function TemplatePicture({ template, folio, datasets }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { widthMm, heightMm } = template.sheet.page
  const { maps, typeStyles, pictures } = folio
  useEffect(() => {
    let here = true
    const made = sheetFromTemplate(template, {
      name: template.name,
      roles: proposedRoles(template, maps),
      maps,
      datasets,
      newId: () => nanoid(8),
      typeStyles,
      pictures,
    })
    const styles = [...typeStyles, ...made.typeStyles]
    ask(folio, (worker) => worker.previewSheet(withStandIns(made.sheet), styles, 2 * pictureWidth)).then(
      (bitmap) => {
        if (!here || !bitmap || !canvas.current) return
        canvas.current.width = bitmap.width
        canvas.current.height = bitmap.height
        canvas.current.getContext('2d')?.drawImage(bitmap, 0, 0)
      },
      () => undefined,
    )
    return () => void (here = false)
    // Of a folio that changes elsewhere the pictures stay as they are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [template, maps, datasets, typeStyles, pictures])
  return (
    <span className="grid h-[118px] place-items-center bg-base-200">
      <canvas
        ref={canvas}
        aria-hidden
        className="max-h-[112px] max-w-full bg-white shadow"
        style={{ aspectRatio: `${widthMm} / ${heightMm}`, height: Math.min(112, (150 * heightMm) / widthMm) }}
      />
    </span>
  )
}
