import { classIndex } from '@/core/classify/classify'
import { classesOf } from '@/core/map/layer-plan'
import type { Classes } from '@/core/kinds/kind'
import type { PanelView, SheetContext } from '../part'

/** The layer of a panel whose colours a table or a chart takes over. */
export type ColourSource = { panelId: string | null; layerId: string }

/** The classes of a layer that a panel shows; null where it has none, or is not shown. */
export function classesShown(panel: PanelView | null, layerId: string): Classes | null {
  const drawn = panel?.layers.find(({ layer }) => layer.id === layerId)
  return drawn ? classesOf(drawn.layer, drawn.prepared) : null
}

/** The colour that a classed value has on the map; null for one without a class. */
export function colourOfValue(classes: Classes, value: number): string | null {
  const { result, colours, shadeOf } = classes
  if (Number.isNaN(value)) return null
  if (shadeOf) return shadeOf(value)
  const index = classIndex(result.breaks, value, result.inclusive)
  return index < 0 ? null : (colours[index] ?? null)
}

/**
 * The colours that the rows of a dataset have on a map, by row; null where the layer shows no classes of this dataset,
 * or not all of its rows.
 */
export function rowColours(
  context: SheetContext,
  source: ColourSource | null,
  datasetId: string,
): ((row: number) => string | null) | null {
  if (!source) return null
  const panel = context.panel(source.panelId)
  const drawn = panel?.layers.find(({ layer }) => layer.id === source.layerId)
  const classes = classesShown(panel, source.layerId)
  const rows = context.datasets.get(datasetId)?.dataset.rowCount
  if (!drawn || !classes || drawn.layer.datasetId !== datasetId || classes.values.length !== rows) return null
  return (row) => colourOfValue(classes, classes.values[row])
}

/** What a part that takes colours from a map leans on. */
export function colourLeaning(context: SheetContext, source: ColourSource | null): unknown[] {
  const panel = source && context.panel(source.panelId)
  return panel ? [panel.map, panel.view.scaleDenominator] : [null]
}
