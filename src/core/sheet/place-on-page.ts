import { isNear, toPaper } from '@/core/geo/paper'
import { toPage, type Point } from './frame'
import type { SheetContext } from './part'

/** All that decides where places of a panel's map lie on the page. */
export const placeLeaning = (
  panelId: string | null,
  { panel, datasets }: Pick<SheetContext, 'panel' | 'datasets'>,
): unknown[] => {
  const shown = panel(panelId)
  if (!shown) return [null]
  const { map, view, frame, window } = shown
  const { x, y, width, height } = window
  return [
    map.projection,
    view,
    ...[frame.rotationDeg, x, y, width, height],
    ...(map.stretchedBy === null ? [] : [map.layers, datasets]),
  ]
}

/**
 * Where a place of a panel's map lies on the page, mm; null where the panel is gone, its map does not show the place,
 * or it lies outside the panel.
 * @param panelId null is the sheet's first panel
 */
export function placeOnPage(
  panelId: string | null,
  place: readonly [lon: number, lat: number],
  { panel }: Pick<SheetContext, 'panel'>,
): Point | null {
  const shown = panel(panelId)
  if (!shown) return null
  const at = toPaper(shown.to, ...shown.lie().project(...place))
  if (!at.every(Number.isFinite) || !isNear(shown.window, ...at)) return null
  return toPage(shown.frame, at)
}
