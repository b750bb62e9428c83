import { exactText, textColumn } from '@/core/data/column'
import type { Field } from '@/core/data/dataset'
import { ImportError, type Imported } from '../import-error'
import { limits } from '../limits'

/** One side of a table of many sides: its values as they are called and, where they have some, their codes. */
export type Dimension = { name: string; labels: string[]; codes: string[] | null }

/** A cell of a cube: the number of its value on each side, its value, and what is said of it. */
export type CubeCell = { at: number[]; value: number | string | null; flag: string | null }

/** What is said of a cell beside its flag, such as its unit, and under which name. */
export type CubeNote = { name: string; of: (cell: CubeCell, index: number) => string | null }

/**
 * A cube of statistics as a plain long table: a row for each cell, a field for each side (and one of its codes where
 * they are not the names), the values, flags where there are some, and what else is said where it differs from cell to
 * cell; what is the same for all stands in the remarks.
 * @throws ImportError where there are too many cells
 */
export function cubeDataset(
  dimensions: Dimension[],
  cells: CubeCell[],
  {
    name,
    fileName,
    remarks = [],
    notes = [],
  }: { name: string; fileName: string; remarks?: string[]; notes?: CubeNote[] },
): Imported {
  if (cells.length > limits.rows)
    throw new ImportError(`${fileName} holds more than ${limits.rows.toLocaleString('en-GB')} values.`)
  if (!cells.length) throw new ImportError(`${fileName} holds no values.`)
  const fields: Field[] = []
  const taken = new Set<string>()
  const add = (wanted: string, column: Field['column']) => {
    let key = wanted
    for (let n = 2; taken.has(key); n++) key = `${wanted} ${n}`
    taken.add(key)
    fields.push({ key, column })
  }
  dimensions.forEach(({ name: side, labels, codes }, d) => {
    if (codes && codes.some((code, i) => code !== labels[i]))
      add(`${side} code`, textColumn(cells.map(({ at }) => codes[at[d]] ?? null)))
    add(side, textColumn(cells.map(({ at }) => labels[at[d]] ?? null)))
  })
  const words = cells.map(({ value }) => value)
  const numeric = words.every((value) => value === null || typeof value === 'number')
  add(
    'value',
    numeric
      ? {
          kind: 'number',
          values: Float64Array.from(words, (value) => (value === null ? NaN : Number(value))),
        }
      : exactText(words.map((value) => (value === null ? null : String(value)))),
  )
  if (cells.some(({ flag }) => flag)) add('flag', textColumn(cells.map(({ flag }) => flag)))
  const constant: string[] = []
  for (const note of notes) {
    const said = cells.map((cell, i) => note.of(cell, i))
    // What is the same for all is said once.
    if (said.every((words) => words === said[0])) {
      if (said[0]) constant.push(`${note.name}: ${said[0]}.`)
    } else add(note.name, textColumn(said))
  }
  return {
    name,
    dataset: { rowCount: cells.length, fields, geometry: { kind: 'none' } },
    guessed: {},
    notes: [],
    remarks: [...remarks, ...constant],
  }
}

/** Calls back for every cell of a cube in order, the last side running fastest. */
export function eachCell(sizes: number[], visit: (at: number[], index: number) => void): void {
  const count = sizes.reduce((product, size) => product * size, 1)
  const at = sizes.map(() => 0)
  for (let index = 0; index < count; index++) {
    visit([...at], index)
    for (let d = sizes.length - 1; d >= 0; d--) {
      if (++at[d] < sizes[d]) break
      at[d] = 0
    }
  }
}
