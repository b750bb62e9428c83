import type { ZodType } from 'zod'
import type { Prepared } from '@/core/data/prepare'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import type { LegendEntry } from '@/core/kinds/kind'
import type { DrawnLayer } from '@/core/map/drawn'
import type { MapSpec, MapView } from '@/core/map/spec'
import type { Projection } from '@/core/projection/projection'
import type { Box } from '@/core/scene/outline'
import type { BlendMode } from '@/core/scene/paint'
import type { Node } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'
import type { PictureEntry, Pictures } from './picture'
import type { NamedTypeStyle } from './type-style'

/** Where a part lies on the page, mm from its top left corner. */
export type PartBox = Box

/** What a part leans on, by id. */
export type PartRefs = { maps: string[]; parts: string[]; datasets: string[]; pictures: string[] }

/** Which id takes the place of which one, when parts are put into another sheet or folio. */
export type Renamed = { [K in keyof PartRefs]: ReadonlyMap<string, string> }

/** The id that takes the place of one; one that no other takes the place of stays. */
export const renamed = (ids: ReadonlyMap<string, string>, id: string): string => ids.get(id) ?? id

export const noRefs: PartRefs = { maps: [], parts: [], datasets: [], pictures: [] }

/** What a new part is made for: the sheet, and the map that is at hand. */
export type PartGiven = {
  sheet: PageOfParts
  map: MapSpec | null
  maps: readonly MapSpec[]
  datasets: Map<string, Prepared>
  /** The middle of what the sheet's panels show, by their ids. */
  centres: ReadonlyMap<string, [lon: number, lat: number]>
  /** The pictures of the folio, the last brought in at the end. */
  pictures: readonly PictureEntry[]
}

/** A sheet as a new part sees it. */
export type PageOfParts = {
  page: { widthMm: number; heightMm: number }
  margins: { top: number; right: number; bottom: number; left: number }
  parts: readonly { id: string; type: string; name: string; box: PartBox; hidden: boolean }[]
}

/** A new part: its name where that is not its type's, the size that it wants and its settings. */
export type NewPart<Settings> = {
  name?: string
  box: PartBox
  settings: Settings
  /** Whether it lies over others on purpose, and no free place is looked for. */
  staysPut?: boolean
  rotationDeg?: number
  opacity?: number
}

/** What a type of part is for; the tray offers them in this order. */
export const partGroups = ['maps', 'words', 'ornament'] as const
export type PartGroup = (typeof partGroups)[number]

/** What a panel of the sheet shows: everything that follows from its map and its view, made once. */
export type PanelView = {
  id: string
  name: string
  map: MapSpec
  view: MapView
  projection: Projection
  /**
   * The same as places lie in it that follow a map which is stretched. Asking for it makes the cartogram where that is
   * not at hand.
   */
  lie: () => Projection
  /** From projected metres to the page. */
  to: PaperTransform
  /** The panel's box, through which the map is seen, before it is turned on the page. */
  window: PaperWindow
  /** The same with its rotation on the page. */
  frame: { box: PartBox; rotationDeg: number }
  /** Whether it is cut to an ellipse. */
  round: boolean
  /** The layers that are seen at its scale, from the top of the stack down. */
  layers: DrawnLayer[]
}

/** How a part is put onto what lies under it. */
export type Mixing = { opacity: number; blend: BlendMode }

/**
 * A place on a map that a part stays at: on which panel (null is the first), longitude and latitude, and where on the
 * page that place lay when the box of the part was as it stands.
 */
export type Anchor = {
  panelId: string | null
  place: readonly [lon: number, lat: number]
  asOf: readonly [x: number, y: number]
}

/** A part that a legend explains: what is said of it, reckoned where it is asked for, and all that this depends on. */
export type ExplainedFigure = { id: string; entry: () => LegendEntry | null; leaning: readonly unknown[] }

/** Whether what lies under a part cannot be read through it; a pale watermark hides nothing. */
export const coversOthers = ({ opacity }: { opacity: number }): boolean => opacity >= 0.5

/** What a part can see while it is composed. */
export type SheetContext = {
  typeStyles: readonly NamedTypeStyle[]
  datasets: Map<string, Prepared>
  fonts: FontBook
  /** What the panel with this id shows, or the sheet's first; null where it is not there or its map is gone. */
  panel: (id: string | null) => PanelView | null
  /** The panels that are not hidden, from the bottom of the pile up. */
  panels: PanelView[]
  /** What a legend says of the part with this id; null where it is gone or is of a type that says nothing. */
  figure: (id: string) => ExplainedFigure | null
  /**
   * The space of the parts that lie over the one with this id, as seen from within its frame before that is
   * turned; labels of a panel keep off it.
   */
  over: (partId: string) => PartBox[]
  /** Replaces fill-ins such as `{{date}}`. */
  fill: (text: string) => string
  picture: Pictures
  toleranceMm: number
}

/**
 * Which part it is that is composed: its id on the sheet, the name that it goes by in outputs, and how the sheet will
 * turn it.
 */
export type PartIdentity = { id: string; name: string; rotationDeg: number }

/**
 * A type of part, which says everything of itself. `box` is in page millimetres; a part is composed upright, the
 * sheet turns it and mixes it with what lies beneath.
 */
export type PartType<Settings> = {
  label: string
  group: PartGroup
  settings: ZodType<Settings>
  /** Whether labels of panels beneath keep off it: true of what hides them. */
  keepsLabelsOff: boolean
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
  /** What a legend says of it, for parts that show figures in colours or sizes of their own. */
  explains?: (settings: Settings, box: PartBox, context: SheetContext) => LegendEntry | null
  /** The place on a map that it stays at, whatever becomes of the panel; null for parts that lie on the page. */
  anchor?: (settings: Settings) => Anchor | null
  fonts: (settings: Settings) => TextFont[]
  /** A new one; null where there is nothing yet that it could show. */
  initial: (given: PartGiven) => NewPart<Settings> | null
  /** New ones that are something already, by what they are called: credits, a watermark. */
  ready?: Record<string, (given: PartGiven) => NewPart<Settings> | null>
  /** Whatever else in the folio it leans on. */
  refs: (settings: Settings) => PartRefs
  /** The same settings leaning on others. */
  remap: (settings: Settings, ids: Renamed) => Settings
  /** The keys of its settings that hold type styles. */
  styles: readonly (keyof Settings & string)[]
}
