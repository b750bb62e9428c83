import { ImportError, type Imported } from '../import-error'
import { limits } from '../limits'
import { nameFromFile } from '../text'
import { cubeDataset, eachCell, type CubeCell, type Dimension } from './cube'

type Keyword = { name: string; of: string | null; values: string[] }

/**
 * Reads a PX file (PC-Axis file format 2013): keywords with their values, then the cells row by row. Names come in the
 * file's first language.
 * @throws ImportError
 */
export function readPx(bytes: Uint8Array, fileName: string): Imported[] {
  const text = decoded(bytes)
  const data = /(?:^|[\r\n;])\s*DATA\s*=/i.exec(text)
  if (!data) throw new ImportError(`${fileName} is no PX file: it has no DATA.`)
  const keywords = keywordsOf(text.slice(0, data.index + 1), fileName)
  const find = (name: string, of: string | null = null) =>
    keywords.find((one) => one.name === name && (of === null || one.of === of))?.values
  const sides = [...(find('STUB') ?? []), ...(find('HEADING') ?? [])]
  if (!sides.length) throw new ImportError(`${fileName} names no sides of its table (STUB, HEADING).`)
  const dimensions = sides.map((side): Dimension => {
    const labels = find('VALUES', side)
    if (!labels) throw new ImportError(`${fileName} does not say the values of “${side}”.`)
    const codes = find('CODES', side)
    return { name: side, labels, codes: codes?.length === labels.length ? codes : null }
  })
  const sizes = dimensions.map(({ labels }) => labels.length)
  const count = sizes.reduce((product, size) => product * size, 1)
  if (count > limits.rows)
    throw new ImportError(`${fileName} has more than ${limits.rows.toLocaleString('en-GB')} cells.`)
  const words = text.slice(data.index + data[0].length).match(/"[^"]*"|[^\s,;"]+/g) ?? []
  const keyed = sides.map((side) => find('KEYS', side)?.[0].toUpperCase() ?? null)
  const { cells, remarks } = keyed.some((by) => by !== null)
    ? cellsByKeys(words, dimensions, keyed, fileName)
    : { cells: cellsInOrder(words, sizes, fileName), remarks: [] }
  const contents = find('CONTVARIABLE')?.[0] ?? null
  const side = sides.indexOf(contents ?? '')
  const said = (name: string) => find(name)?.join(' ')
  return [
    cubeDataset(dimensions, cells, {
      name: said('TITLE') || said('CONTENTS') || nameFromFile(fileName),
      fileName,
      remarks: [
        ...remarks,
        ...(side < 0 && said('UNITS') ? [`Units: ${said('UNITS')}.`] : []),
        ...(said('SOURCE') ? [`Source: ${said('SOURCE')}.`] : []),
        ...(said('LAST-UPDATED') ? [`Updated: ${said('LAST-UPDATED')}.`] : []),
        ...(said('NOTE') ? [`Note: ${said('NOTE')}`] : []),
      ],
      // Each content has a unit of its own.
      notes:
        side < 0
          ? []
          : [
              {
                name: 'unit',
                of: ({ at }) =>
                  find('UNITS', dimensions[side].labels[at[side]])?.join(' ') ?? said('UNITS') ?? null,
              },
            ],
    }),
  ]
}

/** @throws ImportError where there are more or fewer words than cells */
function cellsInOrder(words: string[], sizes: number[], fileName: string): CubeCell[] {
  const count = sizes.reduce((product, size) => product * size, 1)
  if (words.length !== count)
    throw new ImportError(
      `${fileName} is damaged: its table has ${count} cells, but ${words.length} stand in it.`,
    )
  const cells: CubeCell[] = []
  eachCell(sizes, (at, i) => cells.push({ at, ...cellOf(words[i], { fileName, cell: i }) }))
  return cells
}

/**
 * Cells of a table that is written sparsely (keyword KEYS): each row begins with the values or codes of some sides, and
 * rows of nothing but zeros are left out.
 * @param keyed for each side `VALUES` or `CODES` where its keys stand in the rows, else null
 */
function cellsByKeys(
  words: string[],
  dimensions: Dimension[],
  keyed: (string | null)[],
  fileName: string,
): { cells: CubeCell[]; remarks: string[] } {
  const byKey = dimensions.flatMap((_, d) => (keyed[d] === null ? [] : [d]))
  const inRow = dimensions.flatMap((_, d) => (keyed[d] === null ? [d] : []))
  const rowSizes = inRow.map((d) => dimensions[d].labels.length)
  const perRow = rowSizes.reduce((product, size) => product * size, 1)
  const wide = byKey.length + perRow
  if (words.length % wide)
    throw new ImportError(
      `${fileName} is damaged: its rows have ${byKey.length} keys and ${perRow} cells each, which ${words.length} words do not make up.`,
    )
  const places = byKey.map((d) => {
    const { labels, codes } = dimensions[d]
    return new Map((keyed[d] === 'CODES' ? (codes ?? labels) : labels).map((key, i) => [key, i]))
  })
  const given = new Map<string, number>()
  for (let from = 0; from < words.length; from += wide) {
    const keys = byKey.map((d, k) => {
      const key = words[from + k].replace(/^"|"$/g, '')
      const place = places[k].get(key)
      if (place === undefined)
        throw new ImportError(
          `${fileName} is damaged: “${dimensions[d].name}” has no value ‘${key.slice(0, 40)}’.`,
        )
      return place
    })
    if (given.has(keys.join()))
      throw new ImportError(
        `${fileName} is damaged: the row of ${words.slice(from, from + byKey.length).join(', ')} stands in it twice.`,
      )
    given.set(keys.join(), from + byKey.length)
  }
  const cells: CubeCell[] = []
  let zeros = 0
  eachCell(
    byKey.map((d) => dimensions[d].labels.length),
    (keys) => {
      const from = given.get(keys.join())
      if (from === undefined) zeros++
      eachCell(rowSizes, (own, i) => {
        const at = new Array<number>(dimensions.length)
        byKey.forEach((d, k) => (at[d] = keys[k]))
        inRow.forEach((d, k) => (at[d] = own[k]))
        const cell =
          from === undefined
            ? { value: 0, flag: null }
            : cellOf(words[from + i], { fileName, cell: from + i })
        cells.push({ at, ...cell })
      })
    },
  )
  return {
    cells,
    remarks: zeros
      ? [
          `${zeros.toLocaleString('en-GB')} rows are not written in the file, which says by that that their cells are 0.`,
        ]
      : [],
  }
}

/** Dots and dashes in quotation marks say why a value is missing. */
function cellOf(
  word: string,
  { fileName, cell }: { fileName: string; cell: number },
): { value: number | null; flag: string | null } {
  if (word.startsWith('"')) return { value: null, flag: word.slice(1, -1) }
  const value = Number(word)
  if (!Number.isFinite(value))
    throw new ImportError(`${fileName}: ‘${word.slice(0, 30)}’ in cell ${cell + 1} is no number.`)
  return { value, flag: null }
}

/** The text in the encoding that the file itself names. */
function decoded(bytes: Uint8Array): string {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4000))
  const named = /CODEPAGE\s*=\s*"([^"]+)"/i.exec(start)?.[1].toLowerCase() ?? ''
  const encoding = /^(utf-?8)$/.test(named) ? 'utf-8' : /^(iso-8859-\d+|windows-\d+)$/.exec(named)?.[0]
  try {
    return new TextDecoder(encoding ?? 'utf-8', { fatal: !encoding }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

function keywordsOf(text: string, fileName: string): Keyword[] {
  const out: Keyword[] = []
  // Semicolons within quotation marks end nothing.
  for (const [statement] of text.matchAll(/(?:"[^"]*"|[^";])+/g)) {
    const match = /^\s*([A-Z][A-Z0-9-]*)(?:\[[^\]]*\])?\s*(?:\(([^)]*)\))?\s*=\s*([\s\S]*)$/i.exec(statement)
    if (!match) continue
    const [, name, of, values] = match
    // Translations say the same again.
    if (/\[[^\]]*\]/.test(statement.slice(0, statement.indexOf('=')))) continue
    const list = [...values.matchAll(/"([^"]*)"/g)].map(([, word]) => word)
    const broken = list.length > 1 && /"\s+"/.test(values) && !/","/.test(values)
    if (!list.length) list.push(values.trim())
    out.push({
      name: name.toUpperCase(),
      of: of ? (/"([^"]*)"/.exec(of)?.[1] ?? of) : null,
      // Long texts are broken over lines, each in quotation marks of its own.
      values: broken ? [list.join('')] : list,
    })
  }
  if (!out.length) throw new ImportError(`${fileName} is no PX file: it has no keywords.`)
  return out
}
