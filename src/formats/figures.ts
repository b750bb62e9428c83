import type { WordColumn } from './cells'

/**
 * Columns as offices publish figures: numbers with blanks between thousands, percent signs, marks for what is missing
 * and flags behind (`12.3*`, `:`, `1 234,5`, `45.6 e`, `(c)`).
 */
export type Figures = {
  /** The numbers alone; what is missing is empty. */
  plain: WordColumn
  /** The flags and marks of each row; null where there are none. */
  flags: WordColumn | null
  percent: boolean
}

/** What stands for a value that is missing, withheld or not asked for, perhaps with a flag behind. */
const missing = new RegExp(
  `^(?:${[
    String.raw`:|\.{2,3}|…|[-–—.]|\*{1,3}`,
    String.raw`n\/?a|nan|null|#n\/a|[cxzsu]|\((?:c|x|z|s|u|-|–|n\/?a)\)`,
    String.raw`(?::|\.\.)\s?\(?[a-z]{1,2}\)?`,
    'confidential|suppressed|missing|not available',
  ].join('|')})$`,
  'i',
)
/** Missing among numbers in any table; nothing is to be said of these, while `-` and `..` mean different things. */
const plainMissing = /^(?:n\/?a|nan|null)$/i
/** Sign, digits with blanks between thousands or marks, a percent sign, a flag. */
const figure = new RegExp(
  [
    String.raw`^([+−–-]?)\s?`,
    String.raw`((?:\d{1,3}(?:[\s\u00a0\u2009\u202f'’]\d{3})+|\d[\d.,]*|[.,]\d+)(?:[.,]\d+)?(?:e[+-]?\d+)?)`,
    String.raw`\s?(%?)\s?`,
    String.raw`(\(?[a-z]{1,3}\)?|[*†‡§]{1,3}|[¹²³⁴-⁹⁰]{1,2}|\(\d\)|\[\d{1,2}\])?$`,
  ].join(''),
  'i',
)
/** Flags that may stand without a blank before them; other letters there are part of a code. */
const knownFlags = /^\(?(?:[bcdefinprsuz]|bp|be|ep)\)?$/i

/** At most this share of a column may carry flags, or it is no column of figures. */
const mostFlagged = 0.6
/** At least this share of the different words must be numbers. */
const leastNumbers = 0.3

/** The figures of a column; null where it is none, or plain numbers with nothing to be said. */
export function figuresOf({ words, codes }: WordColumn): Figures | null {
  // Most columns are plain numbers, or text whose first word says so.
  if (words.every((word) => plainNumber.test(word))) return null
  const read: Part[] = []
  for (const word of words) {
    const part = partsOf(word.trim())
    if (part === null) return null
    read.push(part)
  }
  const numbers = read.filter(({ number }) => number !== null).length
  const said = read.some(({ flag, changed }) => flag !== '' || changed)
  if (!said || numbers < leastNumbers * words.length || numbers === 0) return null
  const flagged = read.filter(({ number, flag }) => number !== null && flag !== '').length
  if (flagged > mostFlagged * words.length) return null
  // The same number with and without a flag becomes one word.
  const plain = collect(
    read.map(({ number }) => number),
    codes,
  )
  const flags = collect(
    read.map(({ flag }) => flag || null),
    codes,
  )
  return {
    plain,
    flags: flags.words.length ? flags : null,
    percent: read.some(({ percent }) => percent),
  }
}

const plainNumber = /^-?\d+(?:\.\d+)?$/

type Part = { number: string | null; flag: string; percent: boolean; changed: boolean }

function partsOf(word: string): Part | null {
  if (plainMissing.test(word)) return { number: null, flag: '', percent: false, changed: false }
  if (missing.test(word)) return { number: null, flag: word, percent: false, changed: true }
  const match = figure.exec(word)
  if (!match) return null
  const [, sign, digits, percent, flag = ''] = match
  if (flag && /[a-z]/i.test(flag) && !/[\s%]\(?[a-z]{1,3}\)?$/i.test(word) && !knownFlags.test(flag))
    return null
  const number = `${/[−–-]/.test(sign) ? '-' : ''}${digits.replace(/[\s\u00a0\u2009\u202f'’]/g, '')}`
  return { number, flag: flag.trim(), percent: percent !== '', changed: number !== word }
}

/** Words by code, each once; those that are null become empty cells. */
function collect(byWord: (string | null)[], codes: Uint32Array): WordColumn {
  const words: string[] = []
  const known = new Map<string, number>()
  const mapped = new Uint32Array(byWord.length + 1)
  byWord.forEach((word, i) => {
    if (word === null) return
    let code = known.get(word)
    if (code === undefined) {
      code = words.push(word)
      known.set(word, code)
    }
    mapped[i + 1] = code
  })
  return { words, codes: Uint32Array.from(codes, (code) => mapped[code]) }
}
