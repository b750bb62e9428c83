import { z } from 'zod'
import { sortedKeys } from '@/core/registry/sorted-record'

/**
 * How the columns of a dataset's table are laid out. Fields that are not named keep their order after those
 * that are.
 */
export const TableLayout = z.object({
  order: z.array(z.string()),
  hidden: z.array(z.string()),
  /** Columns that stay at the left while the others move. */
  pinned: z.array(z.string()),
  /** Widths in CSS pixels. */
  widths: z.record(z.string(), z.number().min(40).max(1200)).overwrite(sortedKeys),
  /** Digits after the decimal mark. */
  decimals: z.record(z.string(), z.number().int().min(0).max(12)).overwrite(sortedKeys),
})
export type TableLayout = z.infer<typeof TableLayout>

export const plainLayout = (): TableLayout => ({
  order: [],
  hidden: [],
  pinned: [],
  widths: {},
  decimals: {},
})

/** The columns to be shown, pinned ones first, each group in its order. */
export function shownColumns(
  { order, hidden, pinned }: TableLayout,
  keys: string[],
): { pinned: string[]; rest: string[] } {
  const known = new Set(keys)
  const named = order.filter((key) => known.has(key))
  const ordered = [...named, ...keys.filter((key) => !named.includes(key))].filter(
    (key) => !hidden.includes(key),
  )
  return {
    pinned: ordered.filter((key) => pinned.includes(key)),
    rest: ordered.filter((key) => !pinned.includes(key)),
  }
}

/** The order after column `key` took the place of `at`; all columns are named in it then, hidden ones too. */
export function movedColumn({ order }: TableLayout, keys: string[], key: string, at: string): string[] {
  const all = [...order.filter((k) => keys.includes(k)), ...keys.filter((k) => !order.includes(k))]
  const [from, to] = [all.indexOf(key), all.indexOf(at)]
  if (from < 0 || to < 0) return all
  all.splice(to, 0, ...all.splice(from, 1))
  return all
}
