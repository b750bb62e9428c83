'use client'
import { useEffect } from 'react'
import { faceFiles, fontFamilies, type TextFont } from '@/core/scene/fonts'

/** What the second file of a face is for; the first one holds the rest. */
const extended = 'U+0100-024F, U+1E00-1EFF, U+2C60-2C7F, U+A720-A7FF'

const asked = new Set<string>()

function loadFace(font: TextFont): void {
  const [latin, latinExtended] = faceFiles(font)
  for (const [file, unicodeRange] of [
    [latin, undefined],
    [latinExtended, extended],
  ] as const) {
    if (asked.has(file)) continue
    asked.add(file)
    const face = new FontFace(fontFamilies[font.family].label, `url(/fonts/${file})`, {
      weight: String(font.weight),
      style: font.italic ? 'italic' : 'normal',
      ...(unicodeRange && { unicodeRange }),
    })
    document.fonts.add(face)
    // A face that does not come leaves the letters in another one; it is asked for again the next time.
    face.load().catch(() => asked.delete(file))
  }
}

/** Typefaces of sheets for words that the interface itself shows: those that are typed in their places, and samples. */
export function useDocumentFonts(fonts: readonly TextFont[]): void {
  const key = JSON.stringify(fonts)
  useEffect(() => (JSON.parse(key) as TextFont[]).forEach(loadFace), [key])
}
