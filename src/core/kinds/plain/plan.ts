import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { KindData } from '../kind'
import type { PlainSettings } from './spec'

/** Features in the order in which they are drawn and named, the most important first, with their names (null: none). */
export type PlainPlan = { order: number[]; names: (string | null)[] }

export function planPlain({ label }: PlainSettings, { dataset }: KindData): PlainPlan {
  const column = label ? fieldOf(dataset, label.field) : null
  const rankColumn = label?.rankField ? fieldOf(dataset, label.rankField) : null
  const ranks = rankColumn ? numbersOf(rankColumn) : null
  const order = Array.from({ length: dataset.rowCount }, (_, i) => i)
  if (ranks) order.sort((a, b) => (ranks[b] || 0) - (ranks[a] || 0) || a - b)
  const shown = ranks && label ? order.filter((row) => ranks[row] >= label.atLeast) : order
  return { order: shown, names: shown.map((row) => (column ? textAt(column, row) : null)) }
}
