import { decimalsFor } from '@/core/classify/labels'
import { plainFormat, writeNumber } from '@/core/classify/number-format'
import { isMissing, numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { FormulaError, formulaValues } from '@/core/data/formula'
import { createMemory } from '@/core/memory/memory'
import type { LabelSettings } from './spec'

/** A number as labels write it: thousands apart, no more than two decimals. */
export function writeValue(value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value !== 'number') return String(value ?? '')
  return writeNumber(value, plainFormat(), Math.min(2, decimalsFor([Number(value.toFixed(2))])))
}

/** Functions that formulas of labels have besides the usual ones. */
export const labelFunctions = {
  /** Texts and numbers one after the other. */
  concat: (...parts: unknown[]): string => parts.map(writeValue).join(''),
  /** A number with a number of decimals, thousands apart. */
  format: (value: unknown, decimals: unknown = 0): string =>
    writeNumber(Number(value), plainFormat(), Math.max(0, Math.min(6, Math.round(Number(decimals) || 0)))),
}

type Words = { words: (string | null)[]; problem: string | null }

const remember = createMemory<Dataset, Words>('words of labels', { maxBytes: 32 * 2 ** 20 })

/**
 * What the label of each row says, null where there is nothing to say; and what is wrong with the formula.
 */
export const labelWords = (text: LabelSettings['text'], dataset: Dataset): Words =>
  remember(dataset, JSON.stringify(text), () => reckon(text, dataset))

function reckon(text: LabelSettings['text'], dataset: Dataset): Words {
  if (text.by === 'field') {
    const column = fieldOf(dataset, text.field)
    const words = Array.from({ length: dataset.rowCount }, (_, row) => {
      if (!column || isMissing(column, row)) return null
      return column.kind === 'number' ? writeValue(column.values[row]) : textAt(column, row)
    })
    return { words, problem: column ? null : `The field “${text.field}” is gone. Choose another one.` }
  }
  try {
    return {
      words: formulaValues(text.formula, dataset, labelFunctions).map((value) =>
        value === null || value === '' ? null : writeValue(value),
      ),
      problem: null,
    }
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
    return { words: Array.from({ length: dataset.rowCount }, () => null), problem: error.message }
  }
}

/** The size of each label in points. */
export function labelSizes({ sizePt, sizeBy }: LabelSettings, dataset: Dataset): (row: number) => number {
  const column = sizeBy && fieldOf(dataset, sizeBy.field)
  if (!sizeBy || !column) return () => sizePt
  const values = numbersOf(column)
  const steps = [...sizeBy.steps].sort((a, b) => b.atLeast - a.atLeast)
  return (row) => steps.find(({ atLeast }) => values[row] >= atLeast)?.sizePt ?? sizePt
}

/**
 * Rows in the order in which they are labelled, the largest value of the rank field first, without those
 * under the least.
 */
export function rankedRows({ rankField, atLeast }: LabelSettings, dataset: Dataset): number[] {
  const rows = Array.from({ length: dataset.rowCount }, (_, i) => i)
  const column = rankField === null ? null : fieldOf(dataset, rankField)
  if (!column) return rows
  const ranks = numbersOf(column)
  const kept = atLeast === null ? rows : rows.filter((row) => ranks[row] >= atLeast)
  const rank = (row: number): number => (Number.isNaN(ranks[row]) ? -Infinity : ranks[row])
  return kept.sort((a, b) => (rank(b) === rank(a) ? a - b : rank(b) - rank(a)))
}
