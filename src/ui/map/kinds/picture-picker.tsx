'use client'
import { FileUp } from 'lucide-react'
import { useRef, useState } from 'react'
import {
  pathData,
  pictureIds,
  pictureLabel,
  unitOutline,
  type SymbolPicture,
} from '@/core/kinds/marks/pictures'
import { readPicture } from '@/formats/svg-picture/read'
import { Button } from '../../kit/controls'

/** A picture as a small drawing in the colour of the text. */
export function PictureMark({ picture, size = 22 }: { picture: SymbolPicture; size?: number }) {
  const outline = unitOutline(picture)
  const half = Math.max(1, outline.width) / 2 + 0.04
  return (
    <svg width={size} height={size} viewBox={`${-half} ${-half} ${2 * half} ${2 * half}`} aria-hidden>
      <path d={pathData(outline)} fill="currentColor" fillRule={outline.fillRule} />
    </svg>
  )
}

/** Pictures that ship, and the cartographer's own from an SVG file. */
export function PicturePicker({
  value,
  onPick,
}: {
  value: SymbolPicture
  onPick: (picture: SymbolPicture) => void
}) {
  const picker = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState('')
  const bring = async (file: File) => {
    try {
      onPick(readPicture(await file.text(), file.name))
      setProblem('')
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    }
  }
  const offered: SymbolPicture[] = [
    ...pictureIds.map((id): SymbolPicture => ({ from: 'set', id })),
    ...(value.from === 'own' ? [value] : []),
  ]
  return (
    <div className="w-60">
      <div className="grid grid-cols-7 gap-0.5" role="radiogroup" aria-label="Picture">
        {offered.map((picture) => {
          const on = JSON.stringify(picture) === JSON.stringify(value)
          return (
            <button
              key={pictureLabel(picture)}
              type="button"
              role="radio"
              aria-checked={on}
              aria-label={pictureLabel(picture)}
              title={pictureLabel(picture)}
              onClick={() => onPick(picture)}
              className={`grid size-8 place-items-center rounded hover:bg-base-200 ${on ? 'bg-tint text-primary' : ''}`}
            >
              <PictureMark picture={picture} />
            </button>
          )
        })}
      </div>
      <Button className="mt-2 w-full" onClick={() => picker.current?.click()}>
        <FileUp size={14} /> Own picture from an SVG file
      </Button>
      <input
        ref={picker}
        type="file"
        accept=".svg,image/svg+xml"
        aria-label="SVG picture"
        className="hidden"
        onChange={(event) => event.target.files?.[0] && void bring(event.target.files[0])}
      />
      {problem && (
        <p role="alert" className="text-xs text-error">
          {problem}
        </p>
      )}
    </div>
  )
}
