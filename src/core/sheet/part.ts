import type { ZodType } from 'zod'
import type { Prepared } from '@/core/data/prepare'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import type { DrawnLayer } from '@/core/map/drawn'
import type { MapSpec, MapView } from '@/core/map/spec'
import type { Projection } from '@/core/projection/projection'
import type { Box } from '@/core/scene/outline'
import type { Node } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'

/** Where a part lies on the page, mm from its top left corner. */
export type PartBox = Box

/** What a panel of the sheet shows: everything that follows from its map and its view, made once. */
export type PanelView = {
  id: string
  name: string
  map: MapSpec
  view: MapView
  projection: Projection
  /** From projected metres to the page. */
  to: PaperTransform
  /** The panel's box, through which the map is seen. */
  window: PaperWindow
  /** The layers that are seen at its scale, from the top of the stack down. */
  layers: DrawnLayer[]
}

/** What a part can see while it is composed. */
export type SheetContext = {
  datasets: Map<string, Prepared>
  fonts: FontBook
  /** What the panel with this id shows, or the sheet's first; null where it is not there or its map is gone. */
  panel: (id: string | null) => PanelView | null
  /** The panels that are not hidden, from the bottom of the pile up. */
  panels: PanelView[]
  /** The space of the parts that lie over the one with this id; labels of a panel keep off it. */
  over: (partId: string) => PartBox[]
  /** Replaces fill-ins such as `{{date}}`. */
  fill: (text: string) => string
  toleranceMm: number
}

/** Which part it is that is composed: its id on the sheet, and the name that it goes by in outputs. */
export type PartIdentity = { id: string; name: string }

/** A type of part. `box` is in page millimetres; the part's settings are its own business. */
export type PartType<Settings> = {
  label: string
  settings: ZodType<Settings>
  /** Which way its handles may be pulled: in both directions, sideways only, or not at all. */
  resize: 'free' | 'width' | 'none'
  /** The size the part really takes up, which may follow from its content. */
  measure: (settings: Settings, box: PartBox, context: SheetContext) => { width: number; height: number }
  compose: (settings: Settings, box: PartBox, context: SheetContext, part: PartIdentity) => Node[]
  /**
   * Everything that `compose` looks at besides settings, box, fonts and tolerance: objects that are others when
   * they have changed, or simple values. While all are the same, the part is not composed again.
   */
  leansOn: (settings: Settings, box: PartBox, context: SheetContext, part: PartIdentity) => unknown[]
  fonts: (settings: Settings) => TextFont[]
}
