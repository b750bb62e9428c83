import { frameOf } from '@/core/sheet/compose-sheet'
import { boxAround } from '@/core/sheet/frame'
import type { Check } from '../check'

export const insidePage: Check = {
  id: 'inside-page',
  passed: 'Nothing leaves the page',
  failed: 'A part leaves the page',
  run({ sheet, context }) {
    const shown = sheet.parts.filter((part) => !part.hidden)
    const out = shown.find((part) => {
      const box = boxAround(frameOf(part, context))
      return (
        box.x < -0.01 ||
        box.y < -0.01 ||
        box.x + box.width > sheet.page.widthMm + 0.01 ||
        box.y + box.height > sheet.page.heightMm + 0.01
      )
    })
    return out
      ? { ok: false, detail: `“${out.name}” runs over the edge.`, target: { desk: 'sheet', partId: out.id } }
      : { ok: true, detail: `${shown.length} parts`, target: null }
  },
}
