import type { ZodType } from 'zod'
import type { FieldMeta } from '@/core/data/field-meta'
import type { Dataset } from '@/core/data/dataset'
import type { Series } from '@/core/data/series'
import type { Geometry } from '@/core/geo/geometry'
import type { Projected } from '@/core/geo/projected'
import type { Steps } from '@/core/grid/steps'
import type { Classing, SharedValues } from '@/core/classify/spec'
import type { Classification, Ground } from '@/core/classify/classify'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import type { Bend, Projection } from '@/core/projection/projection'
import type { Colour, Paint, Stroke } from '@/core/scene/paint'
import type { Outline } from '@/core/scene/outline'
import type { Node } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'
import type { Mark } from '@/core/labels/beside'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import type { SymbolPicture } from './marks/pictures'
import type { Shape as SymbolShape } from './marks/shapes'

/** What a layer's data look like to its kind. */
export type KindData = {
  dataset: Dataset
  name: string
  fieldMeta: (key: string) => FieldMeta
  /** Another dataset of the folio, for what is shared with it. */
  datasetOf: (id: string) => Dataset | null
  /** All datasets that can be asked for. */
  datasetIds: readonly string[]
}

export type DrawContext = {
  dataset: Dataset
  projection: Projection
  /** Projected to metres and thinned to the output. */
  projected: Projected
  to: PaperTransform
  window: PaperWindow
  fonts: FontBook
  /** Details smaller than this on paper are not seen, mm. */
  toleranceMm: number
  datasetOf: KindData['datasetOf']
  /** A readable, unique name for each feature, for formats that name objects. */
  featureName: (feature: number) => string
}

/** What decides where symbols stand. */
export type PlaceContext = Pick<DrawContext, 'dataset' | 'projection' | 'to'>

/** One line of a legend. The swatch is drawn by the legend part. */
export type LegendItem = {
  key: string
  label: string
  /** Set a little apart from the one before. */
  apart?: boolean
  swatch: {
    shape: 'box' | 'line' | 'dot' | 'ramp' | 'symbol' | 'sample'
    symbol?: SymbolShape
    /** What lies in a sample of the map as large as the box, from its top left corner; mm. */
    sample?: (box: { width: number; height: number }) => Node[]
    /** What a sample needs where that is more than a box has, mm. */
    roomMm?: { width: number; height: number }
    /** From the foot of a ramp to its top. */
    colours?: Colour[]
    fill: Paint | null
    stroke: Stroke | null
    sizeMm?: number
  }
}
export type LegendEntry = {
  heading: string
  /** Classes have keys that begin with “class-”, lowest first. */
  items: LegendItem[]
  /** Words for the ends of the classes, lowest first: one more than there are classes. */
  limits?: string[]
  /** How often values are found, and where the ends of the classes lie among them. */
  distribution?: {
    low: number
    high: number
    at: number[]
    bins: { from: number; to: number; count: number; colour: Colour }[]
  }
  /** Classes of two fields: rows of colours from the lowest, what runs across them and what runs up. */
  square?: {
    cells: Colour[][]
    turned: boolean
    across: string
    up: string
    /** How a cell is filled that is not flat colour. */
    filled?: (outline: Outline, colour: Colour) => Node[]
  }
  /** Symbols of the sizes that they have on the map, the largest first. */
  sizes?: SizeFigure
  /** A heading between the sizes and the items. */
  itemsHeading?: string
}

/** At which scale what is explained is seen: on the ground, and in the plane of the map's projection. */
export type LegendView = { scaleDenominator: number; mmPerMetre: number }

/** Keys of lines of a legend, and which of them a feature has; null for none. */
export type LegendLines = { keys: string[]; of: (feature: number) => string | null }

export type SizeFigure = {
  shape: SymbolShape
  barWidthMm: number
  picture?: SymbolPicture
  form: 'nested' | 'concentric' | 'beside' | 'list'
  fill: Paint
  stroke: Stroke | null
  marks: { label: string; sizeMm: number }[]
}

/**
 * The year that a layer shows of a series: `label` names the field without it, `together` says whether classes are
 * made over all years (null: nobody chose yet).
 */
export type Years = { label: string; year: number; years: Series['years']; together: boolean | null }

/** A piece of a map sentence: plain words, or a word that opens a control. */
export type SentencePart = {
  text: string
  control?:
    | 'dataset'
    | 'field'
    | 'per'
    | 'year'
    | 'field-2'
    | 'per-2'
    | 'classes'
    | 'method'
    | 'scale'
    | 'midpoint'
    | 'colours'
    | 'shape'
    | 'size'
    | 'threshold'
    | 'colour-by'
    | 'kind'
}

export type Caution<Settings> = { words: string; remedies: { label: string; settings: Settings }[] }

/** What the bench shows of a kind's classes. */
export type Classes = {
  heading: string
  unit: string
  result: Classification
  colours: Colour[]
  labels: string[]
  /** The labels as they would be without words written by hand. */
  generated: string[]
  /** For maps without classes. */
  shadeOf?: (value: number) => Colour
  /** What is put into classes; of a great many things, a sample. */
  values: Float64Array
  /** How many things there are where `values` are a sample of them, to which the counts of the result belong. */
  all?: { there: number; missing: number }
  /** Ground of each class, km². */
  km2?: number[]
  /** What has the values where that is not the features: cells or borders, one and many. */
  things?: [one: string, many: string]
  /** Whether values go on from one class to the next on the ground, so that none can be set aside. */
  continuous?: boolean
  ground: Ground
  /** What the breaks are reckoned over where layers share them. */
  pool: {
    values: Float64Array
    ground: Ground
  } | null
  /** How many features may belong to another class, given their error; null where that is not known. */
  mayMove: number | null
}

/** What one feature shows, for the card beside the pointer. */
export type FeatureReading = { value: string; detail: string }

/** A layer that is pointed at. */
export type PointedAt<Settings, Plan> = { plan: Plan; settings: Settings; data: KindData }
/** What lies under the pointer in geometry that a kind made. */
export type Pointed = { feature: number; name: string; reading: FeatureReading }

/**
 * A way in which data could be shown before anybody chose: what is shown in a few words, why, and how well it fits,
 * from 0 to 1.
 */
export type Suggestion<Settings> = { settings: Settings; shows: string; because: string; fit: number }

/**
 * A map kind: its settings, what each feature gets, its drawing, its legend and its sentence. Settings and
 * plan are the kind's own business; the program only hands them back. A plan depends on settings and rows
 * alone, not on labels.
 */
export type MapKind<Settings, Plan, Shapes = null> = {
  label: string
  /** Thematic kinds enter the legend and have a class bench. */
  thematic: boolean
  /** Whether readers compare the sizes of areas, which a projection then has to keep. */
  comparesAreas: boolean
  /** What is said where there is no caution; empty says nothing. */
  fits: string
  settings: ZodType<Settings>
  accepts: (data: KindData) => boolean
  /** Kinds of one such name have settings in common: what both have is taken along when one becomes the other. */
  alike?: string
  /** Settings that are nevertheless a kind's own, and are not taken along. */
  own?: readonly string[]
  /** With fewer rows than this it is offered, but not proposed first. */
  worthFrom?: number
  /** The same with more rows than this. */
  worthUpTo?: number
  initial: (data: KindData) => Settings
  /** What data of this shape could become by this kind, asked only where it accepts them; without it, nothing. */
  suggests?: (data: KindData) => Suggestion<Settings>[]
  plan: (settings: Settings, data: KindData) => Plan
  /**
   * Geometry that a kind makes of its own, plain data: made once for the same rows and for what of the settings is in
   * `key`, whatever the view, and handed to drawing; null for kinds that draw what is in the data.
   */
  shapes: {
    key: (settings: Settings) => string
    /** What was lost in making them, in words; empty for nothing. */
    remark: (shapes: Shapes) => string
    /** How good they are, in short sentences; null for kinds of which nothing is to be said. */
    figures: ((shapes: Shapes) => string[]) | null
    /** @param plane the projection of the map, for shapes that are laid out `onPaper` */
    make: (plan: Plan, settings: Settings, data: KindData, plane: ProjectionSpec) => Steps<Shapes>
    /** Whether shapes are laid out in the map's own projection, and made anew for another one. */
    onPaper: boolean
    /** What takes long before there can be a plan, in pieces; null where it is at hand, or where nothing does. */
    ready: ((settings: Settings, data: KindData) => Steps<void> | null) | null
    /**
     * What lies at a place: a feature of `outlined`, −1 for none, with its name and value; null where there is nothing.
     * Null for kinds of which the data's own features are pointed at.
     */
    at:
      | ((shapes: Shapes, place: [lon: number, lat: number], of: PointedAt<Settings, Plan>) => Pointed | null)
      | null
    /** The areas of which one is outlined when it is pointed at. */
    outlined: ((shapes: Shapes) => Geometry | null) | null
    /**
     * The rows of the data with shapes of their own, which are labelled in place of those that the data have; null for
     * kinds whose shapes are not one for each row.
     */
    rows: ((shapes: Shapes) => Dataset | null) | null
    /**
     * What labels name in place of the rows of the data, such as the peaks of a surface: points with fields of their
     * own, the first of which names them. `blank` has the same fields without rows, and is null where settings want
     * none; `reachMm` is how far the mark of one reaches from its place. Null for kinds of which rows are named.
     */
    named: {
      blank: (settings: Settings) => Dataset | null
      of: (shapes: Shapes) => Dataset | null
      reachMm: (settings: Settings) => number
    } | null
    /** How they stretch the plane of the map, for other layers to follow; null for kinds that do not. */
    bend: ((shapes: Shapes) => Bend | null) | null
    /** Settings that give about the same at once, for a first look; null for kinds that are quick. */
    rough: ((settings: Settings, data: KindData) => Settings) | null
  } | null
  draw: (plan: Plan, settings: Settings, context: DrawContext, shapes: Shapes) => Node[]
  /**
   * The symbols that stand on paper, which labels keep clear of and stand beside; none for kinds that draw
   * areas or lines.
   */
  marks: (plan: Plan, settings: Settings, context: PlaceContext) => Mark[]
  /** `view` is that of the panel that the legend explains, for what depends on its scale; null where there is none. */
  legend: (plan: Plan, settings: Settings, data: KindData, view: LegendView | null) => LegendEntry
  /**
   * The legend's lines of which each feature has at most one, by key, and which one a feature has; null for kinds
   * whose legend tells no features apart.
   */
  legendLines: ((plan: Plan, settings: Settings) => LegendLines | null) | null
  sentence: (settings: Settings, data: KindData) => SentencePart[]
  /** The parts of the settings that say how values are put into classes, one for each field that has some. */
  classings: (settings: Settings) => Classing[]
  /**
   * The classes on the bench of the field whose settings stand at `which` in `classings`; null for kinds
   * without.
   */
  classification: (plan: Plan, settings: Settings, data: KindData, which: number) => Classes | null
  /** Datasets that a layer draws on besides its own. */
  needs: (settings: Settings) => string[]
  /**
   * The settings for another dataset: fields of the same names are taken over, for others the kind proposes
   * some.
   */
  remap: (settings: Settings, data: KindData) => Settings
  /**
   * For kinds of which layers can have one scheme of classes: the settings that these have in common, and what stands
   * for one of them where breaks are made over all; null for other kinds.
   */
  shared: { keys: readonly string[]; member: (settings: Settings) => SharedValues } | null
  /**
   * For kinds that show one year of a series: which one, the settings for another one with every other choice kept,
   * and those with classes over all years or over one; null for other kinds.
   */
  years: {
    of: (settings: Settings, data: KindData) => Years | null
    to: (settings: Settings, data: KindData, year: number) => Settings
    together: (settings: Settings, overYears: boolean) => Settings
    /** What one feature shows in each year; NaN where that is missing. */
    valuesOf: (settings: Settings, data: KindData, feature: number) => { year: number; value: number }[]
  } | null
  /**
   * The settings for showing another field, every other choice kept; null for kinds that show no single
   * field.
   */
  showField: ((settings: Settings, field: string) => Settings) | null
  read: (plan: Plan, settings: Settings, data: KindData, feature: number) => FeatureReading | null
  fonts: (settings: Settings) => TextFont[]
  /** Colours of the small picture of a layer in lists. */
  chip: (plan: Plan, settings: Settings) => Colour[]
  /** A warning about what is shown, with remedies one click away; null where all is well. */
  caution: (plan: Plan, settings: Settings, data: KindData) => Caution<Settings> | null
}
