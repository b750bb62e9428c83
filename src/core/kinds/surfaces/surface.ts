import type { Dataset } from '@/core/data/dataset'
import type { Raster } from '@/core/data/raster'
import type { Grid } from '@/core/grid/grid'
import { drain, type Steps } from '@/core/grid/steps'
import { createMemory, numberOf } from '@/core/memory/memory'
import type { KindData } from '../kind'

/** A surface of values with what is to be said of it. */
export type Surface = {
  grid: Grid
  /** 1 for cells that count in classes and sums; what lies outside only smooths the edge. Null counts all. */
  within: Uint8Array | null
  /** For each cell its standard error, or on how many values it rests; null: not known or not asked for. */
  doubt: Grid | null
  /** What was lost or left out, in words; empty for nothing. */
  remark: string
  /** Figures that the settings show, each a line. */
  figures: string[]
}

/** A band of a raster from which the cells of a surface were taken, fewer than it has. */
export type FineSource = {
  raster: Raster
  band: number
  /** Standard deviation of the Gaussian by which details are smoothed away, m; 0 keeps all. */
  sigmaM: number
  /** Cells are to be no smaller than this on the ground, m; null goes by what paper shows. */
  cellM: number | null
}

/** Where the values of a kind of surface come from. */
export type SurfaceSource<Settings> = {
  /** What of the settings decides the values. */
  key: (settings: Settings) => string
  /** Null where the data give no surface. */
  make: (settings: Settings, data: KindData) => Steps<Surface | null>
  /** Settings that give about the same surface on far fewer cells, for a first look; null where it is quick anyway. */
  rough: ((settings: Settings, data: KindData) => Settings) | null
  needs: (settings: Settings) => string[]
  heading: (settings: Settings, data: KindData) => string
  unit: (settings: Settings, data: KindData) => string
  /** What the values were taken from where that may have finer cells than the surface; null where it has none. */
  finer: ((settings: Settings, data: Pick<KindData, 'dataset'>) => FineSource | null) | null
  /** Under which value there is next to nothing, given the highest; null shows all. */
  least: ((max: number) => number) | null
  /** Whether the surface is kept within the areas of its own data; null for never. */
  ownGround: ((settings: Settings) => boolean) | null
  /** Whether values depend on distances in the plane of the grid, which are not those on the ground for wide data. */
  byDistance: boolean
  /** What is doubtful: cells that rest on `few` values, or whose error is large; null where no doubt is known. */
  doubt: { few: boolean; words: (limit: number) => string } | null
}

const remember = createMemory<Dataset, Surface | null>('surfaces', { maxBytes: 160 * 2 ** 20 })

function keyOf<S>(source: SurfaceSource<S>, settings: S, { datasetOf }: KindData): string {
  const others = source.needs(settings).map((id) => datasetOf(id))
  return JSON.stringify([source.key(settings), others.map((other) => other && numberOf(other))])
}

/** The surface of some settings, reckoned once. */
export function surfaceOf<S>(source: SurfaceSource<S>, settings: S, data: KindData): Surface | null {
  return remember(data.dataset, keyOf(source, settings, data), () => drain(source.make(settings, data)))
}

/** The same in pieces; null where it is at hand. */
export function surfaceSteps<S>(source: SurfaceSource<S>, settings: S, data: KindData): Steps<void> | null {
  const key = keyOf(source, settings, data)
  if (remember.has(data.dataset, key)) return null
  return (function* () {
    const made = yield* source.make(settings, data)
    remember(data.dataset, key, () => made)
  })()
}
