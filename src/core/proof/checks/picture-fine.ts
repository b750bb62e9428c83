import { effectiveDpi, leastPictureDpi } from '@/core/sheet/parts/picture'
import type { Check } from '../check'

export const pictureFine: Check = {
  id: 'picture-fine',
  passed: 'Pictures are fine enough',
  failed: 'A picture is too coarse or missing',
  run({ sheet, context }) {
    const shown = sheet.parts.filter((part) => part.type === 'picture').filter((part) => !part.hidden)
    if (!shown.length) return null
    for (const part of shown) {
      const { pictureId } = part.settings
      const content = pictureId === null ? null : context.picture(pictureId)
      const target = { desk: 'sheet', partId: part.id } as const
      if (!content) return { ok: false, detail: `“${part.name}” shows no picture.`, target }
      const dpi = Math.round(effectiveDpi(part.settings, part.box))
      if (content.kind === 'bitmap' && dpi < leastPictureDpi)
        return { ok: false, detail: `“${part.name}” has ${dpi} of ${leastPictureDpi} dots per inch.`, target }
    }
    return { ok: true, detail: `${shown.length} of at least ${leastPictureDpi} dpi`, target: null }
  },
}
