import type { DrawnLayer } from '@/core/map/drawn'
import type { MapSpec } from '@/core/map/spec'
import type { SheetContext } from '@/core/sheet/part'
import type { Sheet } from '@/core/sheet/spec'

export type ProofInput = {
  sheet: Sheet
  context: SheetContext
  /** Every layer that is seen in one of the panels, once, with its map. */
  layers: (DrawnLayer & { map: MapSpec })[]
}

/** Where a finding can be mended. */
export type Target =
  | { desk: 'map'; mapId: string; layerId: string }
  | { desk: 'sheet'; partId: string | null }
  | { desk: 'data'; datasetId: string }

export type Finding = { ok: boolean; detail: string; target: Target | null }

/**
 * One rule of the proof. It looks at one sheet and says what it found, or null where the rule does not apply.
 */
export type Check = {
  id: string
  /** What is said when all is well, and when it is not. */
  passed: string
  failed: string
  run: (input: ProofInput) => Finding | null
}
