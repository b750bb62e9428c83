import type { Part } from './registry'
import type { Sheet } from './spec'

/** What becomes of the parts when the page gets another size: they grow and shrink with it, or stay. */
export type PartsWhenResized = 'proportion' | 'place'

const round = (mm: number): number => Math.round(mm * 1e4) / 1e4

/**
 * Page and parts after a change of the page's size. In proportion, margins stay, and the space within them is
 * stretched: each part keeps its share of it in either direction. In place, whatever would come to lie beyond the
 * page is moved in as far as needed.
 */
export function resizedPage(
  sheet: Pick<Sheet, 'page' | 'margins' | 'parts'>,
  page: Sheet['page'],
  how: PartsWhenResized,
): { page: Sheet['page']; parts: Part[] } {
  const { margins } = sheet
  const inner = ({ widthMm, heightMm }: Sheet['page']) => ({
    width: Math.max(1, widthMm - margins.left - margins.right),
    height: Math.max(1, heightMm - margins.top - margins.bottom),
  })
  const [before, after] = [inner(sheet.page), inner(page)]
  const [sx, sy] = [after.width / before.width, after.height / before.height]
  const stretched = ({ box }: Part) => ({
    x: round(margins.left + (box.x - margins.left) * sx),
    y: round(margins.top + (box.y - margins.top) * sy),
    width: Math.max(0.1, round(box.width * sx)),
    height: Math.max(0.1, round(box.height * sy)),
  })
  const kept = ({ box }: Part) => ({
    ...box,
    x: round(Math.max(Math.min(0, box.x), Math.min(box.x, page.widthMm - box.width))),
    y: round(Math.max(Math.min(0, box.y), Math.min(box.y, page.heightMm - box.height))),
  })
  const boxOf = how === 'proportion' ? stretched : kept
  return { page, parts: sheet.parts.map((part) => ({ ...part, box: boxOf(part) })) }
}
