import { z } from 'zod'
import { OwnRamp } from '@/core/colour/ramp'
import { DatasetEntry } from '@/core/data/entry'
import { MapSpec } from '@/core/map/spec'
import { KeptStyle } from '@/core/map/style'
import { excessOf } from '@/core/said/excess'
import { issueWords } from '@/core/said/issue-words'
import { FolioError } from './folio-error'
import { Hex } from '@/core/scene/hex'
import { PictureEntry } from '@/core/sheet/picture'
import { Sheet } from '@/core/sheet/spec'
import { NamedTypeStyle } from '@/core/sheet/type-style'
import { firstTypeStyles } from '@/core/sheet/type-styles'
import { folioVersion } from './schema-print'
import { upgraded } from './upgrades'

/** The document. Everything that a folio is stands in here; rows and shapes are referred to by content id. */
export const Folio = z.object({
  format: z.literal('keen-folio'),
  version: z.literal(folioVersion),
  id: z.string(),
  name: z.string().min(1).max(200),
  author: z.string().max(200),
  datasets: z.array(DatasetEntry),
  maps: z.array(MapSpec),
  /** Colour schemes of the cartographer's own. */
  ramps: z.array(OwnRamp).default([]),
  /** Looks of layers that were kept under a name. */
  styles: z.array(KeptStyle).default([]),
  /** Named styles of lettering, which sheets and legends follow. */
  typeStyles: z.array(NamedTypeStyle).default(firstTypeStyles),
  /** Colours that are offered wherever one is chosen, before those in use. */
  palette: z.array(Hex).max(64).default([]),
  /** Pictures that sheets show, each stored once. */
  pictures: z.array(PictureEntry).default([]),
  sheets: z.array(Sheet),
})
export type Folio = z.infer<typeof Folio>

/**
 * The folio as text, always the same for the same content: keys stand in the order of the schema, those of
 * records by alphabet.
 */
export const folioToJson = (folio: Folio): string => JSON.stringify(Folio.parse(folio))

/**
 * Reads a folio from what was stored, bringing older versions up to date.
 * @throws FolioError saying what is wrong with it.
 */
export function readFolio(stored: unknown): Folio {
  const version = typeof stored === 'object' && stored !== null && 'version' in stored ? stored.version : null
  if (typeof version === 'number' && version > folioVersion)
    throw new FolioError(
      `This folio was made by a newer Keen Plot (format ${version}; this one reads up to ${folioVersion}).`,
    )
  const excess = excessOf(stored)
  if (excess) throw new FolioError(`This is not a folio that can be read: ${excess}.`)
  const now = upgraded(stored, folioVersion)
  const lists = listsIn(now)
  const result = Folio.safeParse(typeof now === 'object' && now !== null ? { ...now, ...empty(lists) } : now)
  if (!result.success) throw unreadable(result.error)
  return { ...result.data, ...lists }
}

const unreadable = (error: z.ZodError): FolioError =>
  new FolioError(`This is not a folio that can be read: ${issueWords(error)}.`)

/** More datasets, maps, sheets or kept things of one sort than this are no work of people. */
const mostInList = 10_000

type Lists = { [Key in keyof Folio as Folio[Key] extends unknown[] ? Key : never]?: Folio[Key] }

/**
 * The lists of a stored folio, read thing by thing up to the first that is none: faults of thousands of them are not
 * gathered to say one.
 * @throws FolioError saying what is wrong with that one
 */
function listsIn(stored: unknown): Lists {
  const lists: Record<string, unknown[]> = {}
  if (typeof stored !== 'object' || stored === null) return lists
  for (const [key, shape] of Object.entries(Folio.shape)) {
    const own = shape instanceof z.ZodDefault ? shape.unwrap() : shape
    const given = (stored as Record<string, unknown>)[key]
    // Lists with bounds of their own are read as they are.
    if (!(own instanceof z.ZodArray) || own.def.checks?.length || !Array.isArray(given)) continue
    if (given.length > mostInList)
      throw new FolioError(
        `This is not a folio that can be read: at ${key}, there are more than ${mostInList.toLocaleString('en-GB')}.`,
      )
    const element = own.element as z.ZodType
    lists[key] = given.map((item, i) => {
      const read = element.safeParse(item)
      if (read.success) return read.data
      const [issue] = read.error.issues
      throw unreadable(new z.ZodError([{ ...issue, path: [key, i, ...issue.path] }]))
    })
  }
  return lists
}

const empty = (lists: Lists): Lists => Object.fromEntries(Object.keys(lists).map((key) => [key, []]))
