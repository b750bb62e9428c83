import { linesOf } from '@/core/legend/entries'
import { shownBlocks } from '@/core/sheet/parts/legend'
import { kindOf } from '@/core/kinds/registry'
import type { Check } from '../check'

export const legendPresent: Check = {
  id: 'legend-present',
  passed: 'The legend explains the map',
  failed: 'The map has no legend',
  run({ layers, sheet, context }) {
    if (!layers.some(({ layer }) => kindOf(layer.symbology.kind).thematic)) return null
    const lines = sheet.parts
      .filter((part) => part.type === 'legend' && !part.hidden)
      .flatMap((part) =>
        part.type === 'legend'
          ? linesOf(shownBlocks(part.settings, context)).filter(({ role }) => role !== 'limit')
          : [],
      )
    return lines.length
      ? { ok: true, detail: `${lines.length} lines`, target: null }
      : { ok: false, detail: 'Take a legend from the tray.', target: { desk: 'sheet', partId: null } }
  },
}
