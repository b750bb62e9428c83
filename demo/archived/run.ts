// Compares the sheets of archived folios with the pictures that their own builds drew, and lists what differs.
//   npm run archived            writes the list into index.json and docs/archived.md
//   npm run archived -- --keep  keeps the demo first, as the present build writes and draws it: once for each version
import { readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { documentPrint } from '@/core/folio/schema-print'
import { folioVersion } from '@/core/folio/schema-print'
import { readFolioFile } from '@/formats/folio-file/folio-file'
import { archived, difference, keep, openArchived, writeIndex, type Archived } from './archive'
import { drawn } from './draw'

const docs = path.join(import.meta.dirname, '../../docs/archived.md')

/** Three sheets: two that every version has, and another one for each version. */
function threeOf(ids: readonly string[], turn: number): string[] {
  const always = ['loans-a4', 'amounts-a4'].filter((id) => ids.includes(id))
  const others = ids.filter((id) => !always.includes(id))
  return [...always, ...(others.length ? [others[turn % others.length]] : [])]
}

async function kept(): Promise<Archived> {
  if (archived.some(({ version }) => version === folioVersion))
    throw new Error(`Version ${folioVersion} is archived. What has landed under a number stays as it is.`)
  const text = readFileSync(path.join(import.meta.dirname, '../a-country-that-reads.keen.json'), 'utf8')
  const open = readFolioFile(text)
  const pictures: Record<string, Uint8Array> = {}
  for (const id of threeOf(
    open.folio.sheets.map((sheet) => sheet.id),
    folioVersion,
  ))
    pictures[id] = await drawn(open, id)
  return keep({ version: folioVersion, print: documentPrint }, text, pictures)
}

const all = process.argv.includes('--keep') ? [...archived, await kept()] : archived
for (const one of all) {
  const open = openArchived(one)
  one.differs = {}
  for (const id of Object.keys(one.sheets)) one.differs[id] = await difference(one, id, await drawn(open, id))
  console.log(one.version, one.print, JSON.stringify(one.differs))
}
writeIndex(all)

const rows = all.flatMap(({ version, print, sheets, differs }) =>
  Object.keys(sheets).map((id) => `| ${version} | ${print} | ${id} | ${differs[id].toFixed(1)} % |`),
)
const text = readFileSync(docs, 'utf8')
const mark = '| version |'
writeFileSync(
  docs,
  [
    text.slice(0, text.indexOf(mark)).trimEnd(),
    '',
    '| version | print | sheet | points that differ |',
    '|---|---|---|---|',
    ...rows,
    '',
  ].join('\n'),
)
