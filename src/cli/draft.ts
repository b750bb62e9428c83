import path from 'node:path'
import { InvalidArgumentError, type Command } from 'commander'
import type { Dataset } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared } from '@/core/data/prepare'
import type { Offer } from '@/core/map/offers'
import { readInput, writeOutput } from './files'

type Flags = { out?: string; list?: boolean; take: number; folio?: string }

const counted = (text: string): number => {
  const n = Number(text)
  if (!Number.isInteger(n) || n < 1) throw new InvalidArgumentError('It takes a whole number from 1.')
  return n
}

/** The command that goes from files to a first page by itself, as a newcomer would by taking what is proposed. */
export function addDraft(program: Command): void {
  program
    .command('draft')
    .description(
      'bring files in, join what belongs together, and draw the first page of what they can become',
    )
    .argument('<files...>', 'boundaries, points or lines, and tables, in any format that can be brought in')
    .option('--list', 'list what the files can become, as JSON, instead of drawing')
    .option('--take <n>', 'which of them to draw', counted, 1)
    .option('--out <file>', 'the page, as .pdf, .svg or .png')
    .option('--folio <file>', 'save all of it as a folio file too')
    .action(draft)
}

async function draft(files: string[], flags: Flags): Promise<void> {
  if (!flags.list && !flags.folio && !flags.out)
    throw new Error('Say what to make: --out, --folio or --list.')
  const page = flags.out === undefined ? null : { file: flags.out, format: formatOf(flags.out) }
  let ids = 0
  const newId = () => `draft-${++ids}`
  const { entries, contents } = await broughtIn(files, newId)
  const all = await joined(entries, contents, newId)
  const { offersOf } = await import('@/core/map/offers')
  const shown = [...all.values()].filter(({ entry }) => entry.geometry !== 'none')
  const offers = offersOf(shown, all, newId)
  if (flags.list) return console.log(JSON.stringify(offers.map(said), null, 2))
  const offer = offers.at(flags.take - 1)
  if (!offer)
    throw new Error(
      offers.length
        ? `There is no proposal ${flags.take}; there are ${offers.length}.`
        : 'Nothing in these files has a place that could be drawn.',
    )
  const { newSheet } = await import('@/core/sheet/new-sheet')
  const { legendFonts } = await import('@/core/sheet/first-page')
  const { fontBookOf } = await import('@/render/font-files')
  const { emptyFolio } = await import('@/core/folio/empty-folio')
  const empty = emptyFolio('draft', path.parse(files[0]).name)
  const { typeStyles } = empty
  const name = offer.shows
  const fonts = fontBookOf(legendFonts(offer.map, typeStyles))
  const folio = {
    ...empty,
    datasets: [...all.values()].map(({ entry }) => entry),
    maps: [offer.map],
    sheets: [newSheet(offer.map, all, { name, newId, lettering: { fonts, typeStyles } })],
  }
  console.log(`${offer.shows}: ${offer.because}`)
  if (flags.folio) {
    const { writeFolioFile } = await import('@/formats/folio-file/folio-file')
    writeOutput(flags.folio, writeFolioFile({ folio, contents }))
  }
  if (page) {
    const { renderSheet } = await import('@/render/sheet')
    const { initialPrint } = await import('@/core/print/settings')
    const bytes = await renderSheet({
      folio,
      sheetId: folio.sheets[0].id,
      contents: (id) => contents.get(id) ?? null,
      settings: { ...initialPrint, format: page.format },
      date: new Date(),
      remark: (words) => console.error(words),
    })
    writeOutput(page.file, bytes)
  }
}

/** @throws Error where the ending says no format of a page */
function formatOf(file: string): 'pdf' | 'svg' | 'png' {
  const format = (['pdf', 'svg', 'png'] as const).find(
    (one) => path.extname(file).toLowerCase() === `.${one}`,
  )
  if (!format) throw new Error(`${path.basename(file)} ends neither in .pdf, nor in .svg, nor in .png.`)
  return format
}

const said = ({ shows, kind, because, sentence }: Offer) => ({ shows, kind, because, sentence })

/** All datasets of all files, with what was noticed of them on the error stream. */
async function broughtIn(
  files: string[],
  newId: () => string,
): Promise<{ entries: DatasetEntry[]; contents: Map<string, Dataset> }> {
  const [{ readFile }, { entryOf, noteWords }] = await Promise.all([
    import('@/formats/registry'),
    import('./prepare-files'),
  ])
  const entries: DatasetEntry[] = []
  const contents = new Map<string, Dataset>()
  for (const file of files) {
    const fileName = path.basename(file)
    const { format, datasets } = await readFile(readInput(file), fileName)
    for (const one of datasets) {
      const id = newId()
      contents.set(id, one.dataset)
      entries.push(entryOf(one, { id, fileName, format }))
      for (const words of [...(one.remarks ?? []), ...noteWords(one.notes)])
        console.error(`${fileName}: ${words}`)
    }
  }
  return { entries, contents }
}

/** No file needs more rounds of joining than this. */
const mostJoins = 20

/** Datasets with what is proposed of joins and of long tables carried out, one after the other. */
async function joined(
  entries: DatasetEntry[],
  contents: Map<string, Dataset>,
  newId: () => string,
): Promise<Map<string, Prepared>> {
  const { prepareDatasets } = await import('@/core/data/prepare')
  const { proposalsFor } = await import('@/core/data/proposals')
  const { joinSettings, newStep } = await import('@/core/data/proposed-step')
  let now = entries
  const prepared = () => prepareDatasets(now, (id) => contents.get(id) ?? null)
  for (let round = 0; round < mostJoins; round++) {
    const all = prepared()
    const proposals = [...all.values()].flatMap((one) => proposalsFor(one, all))
    const long = proposals.find((one) => one.does === 'spread')
    const join = proposals.find((one) => one.does === 'join')
    const target = long?.table ?? join?.into
    const into = target === undefined ? undefined : all.get(target)
    if (!into) return all
    const step = long
      ? newStep(into, all, { id: newId(), type: 'long-to-wide', settings: long.settings })
      : newStep(into, all, { id: newId(), type: 'join', settings: join ? joinSettings(join) : {} })
    if (join && !long)
      console.error(`${all.get(join.table)?.entry.name}: ${join.matched} of ${join.of} rows match.`)
    now = now.map((entry) => (entry.id === target ? { ...entry, steps: [...entry.steps, step] } : entry))
  }
  return prepared()
}
