import { layOutTreemap } from '@/core/sheet/parts/treemap/draw'
import type { Check, Target } from '../check'

/** Names are left out where they do not fit in their tile; readers then miss them without knowing. */
export const namedTiles: Check = {
  id: 'named-tiles',
  passed: 'Every tile of a treemap has its name',
  failed: 'Tiles of a treemap have no name',
  run({ sheet, context }) {
    const unnamed: string[] = []
    let tiles = 0
    let target: Target | null = null
    for (const part of sheet.parts) {
      if (part.type !== 'treemap' || part.hidden) continue
      const laid = layOutTreemap(part.settings, part.box, context)
      tiles += laid.tiles.length
      unnamed.push(...laid.unnamed)
      if (laid.unnamed.length) target ??= { desk: 'sheet', partId: part.id }
    }
    if (!tiles) return null
    if (!target) return { ok: true, detail: `${tiles} named`, target }
    const some = unnamed.slice(0, 3).join(', ')
    const more = unnamed.length > 3 ? ` and ${unnamed.length - 3} more` : ''
    return { ok: false, detail: `${unnamed.length} have no room for it: ${some}${more}.`, target }
  },
}
