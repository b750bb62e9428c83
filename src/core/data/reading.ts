import { z } from 'zod'

/**
 * What the values of a raster are: amounts such as heights, of which coarser cells have the mean; numbers that name
 * kinds of ground, of which they have the commonest; or numbers that stand for the colours of a picture.
 */
export const ValuesAre = z.enum(['amounts', 'kinds', 'colours'])
export type ValuesAre = z.infer<typeof ValuesAre>

/**
 * How a file is to be read where the best guess was wrong. Whatever is not set is found out from the file.
 */
export const ReadOptions = z.object({
  /** EPSG code of the coordinates. */
  crs: z.string().max(4000).optional(),
  delimiter: z.enum([',', ';', '\t', '|']).optional(),
  encoding: z.string().max(30).optional(),
  decimalMark: z.enum(['.', ',']).optional(),
  header: z.boolean().optional(),
  sheet: z.string().optional(),
  /** Cells of a sheet, such as `B3:H60`. */
  range: z.string().optional(),
  /** Layers of a file that holds several. */
  layers: z.array(z.string()).optional(),
  /** Fields that hold coordinates; `none` leaves a table a table. */
  x: z.string().optional(),
  y: z.string().optional(),
  /** Whether rows that hold the sums of the others stay among them. */
  totals: z.enum(['aside', 'kept']).optional(),
  values: ValuesAre.optional(),
})
export type ReadOptions = z.infer<typeof ReadOptions>

/** What was taken for granted while reading, and the choices there were. */
export const Guessed = ReadOptions.extend({
  sheets: z.array(z.string()).optional(),
  valuesMayBe: z.array(ValuesAre).optional(),
})
export type Guessed = z.infer<typeof Guessed>

/** A layer of a file that holds several. */
export const LayerCard = z.object({ name: z.string(), rows: z.number(), geometry: z.string() })
export type LayerCard = z.infer<typeof LayerCard>

/** What a person has to say before a file can be read. */
export type Asks = { what: 'system' } | { what: 'layers'; layers: LayerCard[] }

/** What was found in one feature's shape while reading: mended where that is safe, and said in any case. */
export const ShapeNote = z.object({
  row: z.number().int(),
  what: z.enum([
    'closed an open ring',
    'untangled a ring that crosses itself',
    'dropped a ring without an area',
    'crosses itself too often to be untangled and was left out',
    'could not be mended and was left out',
    'has a hole beside its area, which is taken for an area',
    'was left as the file cuts it, since put together it would not be as large',
    'has no extent',
    'has no shape',
    'is a copy of another row',
    'leaves a gap to its neighbour',
    'overlaps its neighbour',
  ]),
  at: z.array(z.number()).nullable(),
  /** Square metres by which mending changed what the shape covers. */
  change: z.number().optional(),
})
export type ShapeNote = z.infer<typeof ShapeNote>
