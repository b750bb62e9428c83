'use client'
import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
import { fitMap, paperTransform, viewProjection } from '@/core/map/view'
import { mapOfPanel, panelsOf, viewOfPanel } from '@/core/sheet/panel-view'
import type { Sheet } from '@/core/sheet/spec'

/** Where a map is printed: its panels on sheets, or a page that is only thought of; mm. */
export type BlockPage = { id: string; label: string; width: number; height: number; mmPerMetre: number }

const window = (width: number, height: number) => ({ x: 0, y: 0, width, height })

/** The panels that show a map, and a page of some size on which the map is as large as it may be. */
export function pagesOf(
  map: MapSpec,
  { sheets, maps }: { sheets: readonly Sheet[]; maps: readonly MapSpec[] },
  all: Map<string, Prepared>,
  thought: { width: number; height: number },
): BlockPage[] {
  const panels = sheets.flatMap((sheet) =>
    panelsOf(sheet).flatMap((part) => {
      const shown = mapOfPanel(part, maps)
      if (shown?.id !== map.id) return []
      const view = viewOfPanel(part, sheet)
      const { width, height } = part.box
      const { mmPerMetre } = paperTransform(viewProjection(shown, view), view, window(width, height))
      return [
        { id: `${sheet.id} ${part.id}`, label: `${sheet.name}: ${part.name}`, width, height, mmPerMetre },
      ]
    }),
  )
  const fitted = fitMap(map, all, thought)
  const mmPerMetre = fitted
    ? paperTransform(viewProjection(map, fitted), fitted, window(thought.width, thought.height)).mmPerMetre
    : 1e-3
  return [...panels, { id: 'thought', label: 'a page of this size', ...thought, mmPerMetre }]
}
