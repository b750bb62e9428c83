import type { Raster } from '@/core/data/raster'
import type { ValuesAre } from '@/core/data/reading'
import { definitionOf } from '../crs/reproject'
import { ImportError } from '../import-error'
import type { LevelsOf } from '../raster-tiles/write'

/** Where the upper left corner of a cell lies, as in `Raster`, for the cells of a file. */
export type Transform = [number, number, number, number, number, number]

/** A file of cells that is read row by row, whatever its format. */
export type RasterFile = LevelsOf & {
  name: string
  transform: Transform
  system: System
  /** So many rows, and multiples of them, are read at no loss. */
  rowsInBlock: number
  /** Rows from `top` up to but not including `bottom`: the cells of each band, NaN where there is none. */
  read: (top: number, bottom: number) => Promise<ArrayLike<number>[]>
  /** What values may be, where a person can say; what they were taken for shows in `ofKinds` and the bands. */
  valuesMayBe?: ValuesAre[]
  /** What was lost or changed of the cells, after all of them were read. */
  remarks?: () => string[]
} & Pick<Raster, 'palette'>

/** What lies beside a file and says what it does not: where its cells lie, and in which system. */
export type Beside = { transform: Transform | null; system: string | null }

/** The reference system of a file. */
export type System = {
  /** As the person or the file has it: a code, or well-known text. */
  code: string
  /** What its coordinates are reckoned by; empty where they are degrees. */
  formula: string
  toDegrees: ((x: number, y: number) => [number, number]) | null
}

/** @throws ImportError for a system that is not known, or that cells cannot lie in here */
export function systemOf(code: string): System {
  const { toDegrees, formula, plainAxes, name } = definitionOf(code)
  if (!plainAxes)
    throw new ImportError(
      `Cells in ${name}, whose axes point to the south or west or count in grads, cannot be read. Save the raster in another reference system and bring it in again.`,
    )
  return { code, toDegrees, formula: toDegrees ? formula : '' }
}
