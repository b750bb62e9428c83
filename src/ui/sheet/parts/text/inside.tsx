'use client'

import { pointsToMm } from '@/core/scene/units'
import { fontFamilies } from '@/core/scene/fonts'
import { editPart } from '../../edit-sheet'
import type { InsideProps } from '../inside-props'

/** The words of a text part, typed where they stand. */
export function InsideText({ sheet, part, scale, onLeave }: InsideProps<'text'>) {
  const { text, style, align, leading } = part.settings
  return (
    <textarea
      autoFocus
      aria-label={`Words of ${part.name}`}
      value={text}
      onChange={(event) =>
        editPart(
          { sheetId: sheet.id, partId: part.id },
          'Change text',
          (p) => p.type === 'text' && (p.settings.text = event.target.value),
          'text',
        )
      }
      onKeyDown={(event) => event.key === 'Escape' && onLeave()}
      onFocus={(event) => event.target.select()}
      className="absolute inset-0 min-h-full w-full resize-none overflow-hidden bg-white p-0 outline-none"
      style={{
        fontFamily: `'${fontFamilies[style.family].label}', sans-serif`,
        fontWeight: style.weight,
        fontStyle: style.italic ? 'italic' : 'normal',
        fontSize: pointsToMm(style.sizePt) * scale,
        lineHeight: leading,
        letterSpacing: pointsToMm(style.letterSpacingPt) * scale,
        color: style.colour,
        textAlign: align === 'centre' ? 'center' : align,
      }}
    />
  )
}
