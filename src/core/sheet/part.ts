import type { ZodType } from 'zod'
import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
import type { Node } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'

export type PartBox = { x: number; y: number; width: number; height: number }

/** What a part can see while it is composed. */
export type SheetContext = {
  maps: MapSpec[]
  datasets: Map<string, Prepared>
  fonts: FontBook
  /** The panel with this id, or the sheet's first panel. */
  panel: (
    id: string | null,
  ) => { id: string; name: string; box: PartBox; settings: import('./parts/panel/spec').PanelSettings } | null
  /** The space of the parts that lie over the one with this box; labels of a panel keep off it. */
  over: (box: PartBox) => PartBox[]
  /** Replaces fill-ins such as `{{date}}`. */
  fill: (text: string) => string
  toleranceMm: number
}

/** A type of part. `box` is in page millimetres; the part's settings are its own business. */
export type PartType<Settings> = {
  label: string
  settings: ZodType<Settings>
  /** Which way its handles may be pulled: in both directions, sideways only, or not at all. */
  resize: 'free' | 'width' | 'none'
  /** The size the part really takes up, which may follow from its content. */
  measure: (settings: Settings, box: PartBox, context: SheetContext) => { width: number; height: number }
  compose: (settings: Settings, box: PartBox, context: SheetContext, id: string) => Node[]
  fonts: (settings: Settings) => TextFont[]
}
