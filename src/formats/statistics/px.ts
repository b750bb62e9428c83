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
  if (words.length !== count)
    throw new ImportError(
      `${fileName} is damaged: its table has ${count} cells, but ${words.length} stand in it.`,
    )
  const cells: CubeCell[] = []
  eachCell(sizes, (at, i) => cells.push({ at, ...cellOf(words[i], { fileName, cell: i }) }))
  const said = (name: string) => find(name)?.join(' ')
  return [
    cubeDataset(dimensions, cells, {
      name: said('TITLE') || said('CONTENTS') || nameFromFile(fileName),
      fileName,
      remarks: [
        ...(said('UNITS') ? [`Units: ${said('UNITS')}.`] : []),
        ...(said('SOURCE') ? [`Source: ${said('SOURCE')}.`] : []),
        ...(said('LAST-UPDATED') ? [`Updated: ${said('LAST-UPDATED')}.`] : []),
        ...(said('NOTE') ? [`Note: ${said('NOTE')}`] : []),
      ],
    }),
  ]
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
