import { z } from 'zod'
import { blockShapes } from '@/core/cartogram/block-grid'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'
import { ChoroplethSettings } from '../choropleth/spec'

/** Blocks as rows: r, first q and last q of each by turns. */
const Runs = z.array(z.int().min(-1e5).max(1e5)).refine((runs) => runs.length % 3 === 0, {
  message: 'Rows of blocks have three numbers each.',
})

/** Areas made of blocks of one worth, as many as each is worth, and shaded as a choropleth. */
export const BlocksSettings = ChoroplethSettings.extend({
  /** What decides how many blocks an area has. */
  size: z.string(),
  shape: z.enum(blockShapes),
  /** What a block stands for, in the unit of that field. */
  value: z.number().positive(),
  /** The side of a block in the map's plane, m. */
  sideM: z.number().positive(),
  /** How much of the page blocks are meant to fill, 0 to 1. */
  filled: z.number().min(0.02).max(1),
  /** Another one makes another layout. */
  seed: z.int().min(0).max(1e6),
  /** Whether areas of less than half a block are put together, and the field that names their regions. */
  byRule: z.boolean(),
  region: z.string().nullable(),
  /** Areas put together by hand, by their keys, under a name; and those that the rule leaves alone. */
  groups: z
    .array(z.object({ name: z.string().min(1).max(200), members: z.array(z.string()).max(50_000) }))
    .max(500),
  alone: z.array(z.string()).max(50_000),
  /** Lines between blocks of one area. */
  lines: z.object({ colour: Hex, widthPt: z.number().min(0).max(20) }),
  /** Fields among which the blocks of each area are shared out, with the colour of each; none shades by classes. */
  parts: z.array(z.object({ field: z.string(), colour: Hex })).max(12),
  /** Blocks placed by hand, by the name of what they belong to; null lets them find their places. */
  hand: z.record(z.string(), Runs).overwrite(sortedKeys).nullable(),
  /** Names of what keeps its blocks when others settle. */
  kept: z.array(z.string()).max(50_000),
})
export type BlocksSettings = z.infer<typeof BlocksSettings>
