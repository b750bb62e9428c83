import { featureOutline } from '@/core/geo/outlines'
import { fieldOf } from '@/core/data/dataset'
import { textAt } from '@/core/data/column'
import type { Prepared } from '@/core/data/prepare'
import { generalise } from '@/core/geo/generalise'
import { projectGeometry } from '@/core/geo/projected'
import { insetOutline, withinBox } from '@/core/scene/inset'
import { polygon, rectangle, type Box, type Outline } from '@/core/scene/outline'
import { ellipse, insetBox, roundedRectangle } from '@/core/scene/shapes'
import type { PanelView } from '../../part'
import type { PanelShape } from './spec'

/** Rows of a dataset whose text of a field is one of some values. */
export function rowsWith({ dataset }: Prepared, field: string, values: readonly string[]): number[] {
  const column = fieldOf(dataset, field)
  if (!column) return []
  const wanted = new Set(values)
  return Array.from({ length: dataset.rowCount }, (_, row) => row).filter((row) =>
    wanted.has(textAt(column, row) ?? ''),
  )
}

/** The outline of a form that only the box decides; null for one cut to an area. */
function plainShape(shape: PanelShape, box: Box, inset = 0): Outline | null {
  const inner = insetBox(box, inset)
  switch (shape.by) {
    case 'rectangle':
      return shape.cornerMm > 0 ? roundedRectangle(inner, shape.cornerMm - inset) : rectangle(inner)
    case 'ellipse':
      return ellipse(inner)
    case 'polygon':
      return polygon(shape.corners.flatMap(([x, y]) => [box.x + x * box.width, box.y + y * box.height]))
    case 'area':
      return null
  }
}

type ShapeOf = { shown: PanelView | null; datasets: Map<string, Prepared>; toleranceMm: number }

/**
 * The outline that a panel is cut to, on paper. A panel that is to be cut to an area that is not there, or lies
 * outside, keeps its box.
 */
export function shapeOutline(
  shape: PanelShape,
  box: Box,
  { shown, datasets, toleranceMm }: ShapeOf,
): Outline {
  const plain = plainShape(shape, box)
  if (plain) return plain
  const prepared = shape.by === 'area' ? datasets.get(shape.datasetId) : undefined
  if (!shown || !prepared || shape.by !== 'area' || prepared.dataset.geometry.kind !== 'areas')
    return rectangle(box)
  const rows = rowsWith(prepared, shape.field, shape.values)
  const projected = generalise(
    projectGeometry(prepared.dataset.geometry, shown.projection),
    toleranceMm / shown.to.mmPerMetre,
  )
  const { outline, kept } = featureOutline(projected, rows, shown.to, shown.window)
  return kept.length ? outline : rectangle(box)
}

/**
 * Outlines that lie so far within the form of a panel, mm, as its soft edge and its inner lines follow them. Boxes and
 * ellipses keep their curves, other forms become polygons.
 */
export function insetsOf(shape: PanelShape, box: Box, given: ShapeOf): (byMm: number) => Outline {
  if (shape.by === 'rectangle' || shape.by === 'ellipse')
    return (by) => plainShape(shape, box, by) ?? rectangle(box)
  const seen = withinBox(shapeOutline(shape, box, given), box)
  return (by) => (by === 0 ? seen : insetOutline(seen, by))
}
