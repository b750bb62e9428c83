import type { MathNode } from 'mathjs'
// The library in one file: as thousands of modules it takes seconds to load.
import math from 'mathjs/lib/browser/math.js'
import { numberColumn, numbersOf, textAt, textColumn, type Column } from './column'
import type { Dataset } from './dataset'

/** Functions that may stand in a formula: they only compute. */
export const formulaFunctions = [
  'abs',
  'ceil',
  'floor',
  'round',
  'sqrt',
  'cbrt',
  'exp',
  'log',
  'log2',
  'log10',
  'pow',
  'sign',
  'min',
  'max',
  'mod',
  'hypot',
] as const
const allowed = new Set<string>(formulaFunctions)
const constants = new Set(['pi', 'e', 'true', 'false', 'NaN'])

/**
 * How a field is written in a formula: its key with everything but letters, digits and underscores made an
 * underscore.
 */
export const formulaName = (key: string): string => {
  const name = key.replace(/[^\p{L}\p{N}_]+/gu, '_')
  return /^\p{N}/u.test(name) ? `_${name}` : name
}

/** What is wrong with a formula, and where: `at` counts characters from 0, −1 where no place can be named. */
export class FormulaError extends Error {
  override name = 'FormulaError'
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message)
  }
}

/**
 * A formula in the expression syntax of mathjs with plain field names, checked: it may compute, compare and
 * choose, and nothing else (no assignment, no functions of its own, no access to objects). `more` are further
 * functions.
 * @throws FormulaError
 */
export function parseFormula(
  text: string,
  keys: string[],
  more: Record<string, unknown> = {},
): { fields: string[]; evaluate: (row: Record<string, number | string>) => unknown } {
  let node: MathNode
  try {
    node = math.parse(text)
  } catch (error) {
    const { message, char } = error as Error & { char?: number }
    throw new FormulaError(message.replace(/ \(char \d+\)$/, '.'), (char ?? 0) - 1)
  }
  const names = new Map(keys.map((key) => [formulaName(key), key]))
  const fields = new Set<string>()
  node.traverse((part, path, parent) => {
    if (
      ![
        'OperatorNode',
        'ConstantNode',
        'SymbolNode',
        'FunctionNode',
        'ParenthesisNode',
        'ConditionalNode',
        'RelationalNode',
      ].includes(part.type)
    )
      throw new FormulaError(
        `“${part.toString()}” cannot stand in a formula here.`,
        text.indexOf(part.toString()),
      )
    if (part.type !== 'SymbolNode') return
    // The library's `MathNode` does not tell its kinds apart by `type`.
    const { name } = part as unknown as { name: string }
    const isFunction = parent?.type === 'FunctionNode' && path === 'fn'
    if (isFunction) {
      if (!allowed.has(name) && !Object.hasOwn(more, name))
        throw new FormulaError(
          `There is no function “${name}”. There are: ${[...Object.keys(more), ...formulaFunctions].join(', ')}.`,
          text.indexOf(name),
        )
    } else if (names.has(name)) fields.add(names.get(name) as string)
    else if (!constants.has(name)) throw new FormulaError(`There is no field “${name}”.`, text.indexOf(name))
  })
  const code = withWords(node).compile()
  return {
    fields: [...fields],
    evaluate: (row) => code.evaluate({ ...row, ...more, ...comparisons }) as unknown,
  }
}

const alike = (a: unknown, b: unknown): boolean =>
  typeof a === 'string' || typeof b === 'string'
    ? String(a) === String(b)
    : Boolean(math.equal(a as number, b as number))

/** What `==` and `!=` mean here: words are compared as they are, where the library would take them for numbers. */
const comparisons = { alike_: alike, unlike_: (a: unknown, b: unknown) => !alike(a, b) }

/** A formula that compares words too. */
const withWords = (node: MathNode): MathNode =>
  node.transform((part) => {
    if (part.type !== 'OperatorNode') return part
    // The library's `MathNode` does not tell its kinds apart by `type`.
    const { fn, args } = part as unknown as { fn: string; args: MathNode[] }
    if (fn === 'equal') return new math.FunctionNode('alike_', args.map(withWords))
    return fn === 'unequal' ? new math.FunctionNode('unlike_', args.map(withWords)) : part
  })

/**
 * The value of a formula for each row: null where a field it uses is missing.
 * @throws FormulaError
 */
export function formulaValues(text: string, dataset: Dataset, more: Record<string, unknown> = {}): unknown[] {
  const { fields, evaluate } = parseFormula(
    text,
    dataset.fields.map((f) => f.key),
    more,
  )
  const used = dataset.fields
    .filter((f) => fields.includes(f.key))
    .map((f) => ({ name: formulaName(f.key), column: f.column, numbers: numbersOf(f.column) }))
  const row: Record<string, number | string> = {}
  const results: unknown[] = []
  for (let i = 0; i < dataset.rowCount; i++) {
    let missing = false
    for (const { name, column, numbers } of used) {
      const value = column.kind === 'number' ? numbers[i] : textAt(column, i)
      if (value === null || (typeof value === 'number' && Number.isNaN(value))) missing = true
      else row[name] = value
    }
    results.push(missing ? null : attempt(() => evaluate(row)))
  }
  return results
}

/**
 * The column that a formula gives: a value is missing where a field it uses is missing, or where nothing
 * finite comes out. True and false become 1 and 0.
 * @throws FormulaError
 */
export function formulaColumn(text: string, dataset: Dataset): Column {
  const results = formulaValues(text, dataset)
  if (results.some((v) => typeof v === 'string'))
    return textColumn(results.map((v) => (v === null || v === undefined ? null : String(v))))
  const number = (v: unknown): number | null => (typeof v === 'number' && Number.isFinite(v) ? v : null)
  return numberColumn(results.map((v) => (typeof v === 'boolean' ? Number(v) : number(v))))
}

function attempt(work: () => unknown): unknown {
  try {
    return work()
  } catch (error) {
    throw new FormulaError((error as Error).message, -1)
  }
}
