import type { z } from 'zod'
import { taggedUnion, type Tagged } from '@/core/registry/tagged-union'
import { bivariate } from './bivariate'
import { blocks } from './blocks'
import { cartogram } from './cartogram'
import { categories } from './categories'
import { cellCategories } from './cell-categories'
import { cellClasses } from './cell-classes'
import { cells } from './cells'
import { charts } from './charts'
import { choropleth } from './choropleth'
import { contrast } from './contrast'
import { density } from './density'
import { dots } from './dots'
import { flows } from './flows'
import { glow } from './glow'
import type { MapKind } from './kind'
import { interpolated } from './interpolated'
import { isolines } from './isolines'
import { lines } from './lines'
import { plain } from './plain'
import { potential } from './potential'
import { raster } from './raster'
import { relief } from './relief'
import { symbols } from './symbols'

/**
 * Every map kind, one line each, in the order in which they are proposed for a dataset. Nothing else in the
 * program lists them.
 */
const kinds = {
  choropleth,
  bivariate,
  symbols,
  cartogram,
  blocks,
  dots,
  density,
  cells,
  interpolated,
  potential,
  contrast,
  lines,
  categories,
  flows,
  charts,
  plain,
  raster,
  relief,
  'cell-classes': cellClasses,
  'cell-categories': cellCategories,
  isolines,
  glow,
}

export type KindId = keyof typeof kinds
export const kindIds = Object.keys(kinds) as KindId[]

/** A layer's kind with its settings, as they stand in a folio. */
export type Symbology = Tagged<typeof kinds, 'kind', unknown>
export const Symbology: z.ZodType<Symbology> = taggedUnion('kind', kinds, {})

/**
 * Settings that a kind made, with its name. Kinds hand out their settings as unknown; that they are those of
 * this kind is known here only, from where they come.
 */
export const symbologyOf = (kind: KindId, settings: unknown): Symbology => ({ kind, settings }) as Symbology

/** A kind whose settings and plan are opaque, for code that serves every kind. */
export type AnyKind = MapKind<unknown, unknown, unknown>

export const kindOf = (id: KindId): AnyKind => kinds[id] as AnyKind
