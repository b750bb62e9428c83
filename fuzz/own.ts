import { archived, archivedFile } from '../demo/archived/archive'
import type { PrepStep } from '@/core/data/steps/registry'
import { looksOf } from '@/core/folio/looks'
import { styleOf } from '@/core/map/style'
import { SaidError } from '@/core/said/said-error'
import { templateOf } from '@/core/sheet/template'
import { readFolioFile } from '@/formats/folio-file/folio-file'
import { readLooks, writeLooks } from '@/formats/looks-file/looks-file'
import { readSteps, writeSteps } from '@/formats/steps-file/steps-file'
import { readStyles, writeStyles } from '@/formats/styles-file/styles-file'
import { writeTemplateFile } from '@/formats/template-file/template-file'
import { carryOut } from '@/server/work/pool'
import { TaskFailure } from '@/server/work/protocol'
import type { BringIn, Seed } from './seeds'

const bytesOf = (text: string) => new TextEncoder().encode(text)
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes)

/** Read as the browser does, in this process: whatever is thrown must be said in our words. */
const here =
  (read: (text: string, name: string) => unknown): BringIn =>
  async (bytes, fileName) => {
    try {
      read(textOf(bytes), fileName)
    } catch (error) {
      if (error instanceof SaidError) throw new TaskFailure(error.message)
      throw new TaskFailure(`It was not foreseen: ${String(error)}`)
    }
    return [1]
  }

/** The document of a folio as it lies in a database. */
const asDocument: BringIn = (bytes) =>
  carryOut('readDocument', { document: textOf(bytes) }, {}, async () => [1])

/** A folio file, with a picture of its first sheet: what is let in is drawn. */
const asFile: BringIn = (_, __, file) =>
  carryOut('openFolioFile', { file, id: 'damaged', withPicture: true }, {}, async () => [1])

const asTemplate: BringIn = (bytes) => carryOut('readTemplate', { bytes, bare: false }, {}, async () => [1])

type Stored = {
  folio: {
    sheets: { id: string; parts: { settings: { mapId?: string } }[] }[]
    maps: { id: string; layers: { datasetId: string }[] }[]
    datasets: { id: string; source: { contentId: string }; steps: { settings?: { datasetId?: string } }[] }[]
  }
  contents: Record<string, unknown>
}

/** A folio file with one sheet of a folio, and what that needs. */
function ofOneSheet(text: string, sheetId: string): string {
  const file = JSON.parse(text) as Stored
  const sheets = file.folio.sheets.filter(({ id }) => id === sheetId)
  const mapIds = sheets.flatMap(({ parts }) => parts.map(({ settings }) => settings.mapId))
  const maps = file.folio.maps.filter(({ id }) => mapIds.includes(id))
  const needed = new Set(maps.flatMap(({ layers }) => layers.map(({ datasetId }) => datasetId)))
  for (const { id, steps } of file.folio.datasets)
    if (needed.has(id))
      for (const { settings } of steps) if (settings?.datasetId) needed.add(settings.datasetId)
  const datasets = file.folio.datasets.filter(({ id }) => needed.has(id))
  const contents = Object.fromEntries(
    datasets.map(({ source }) => [source.contentId, file.contents[source.contentId]]),
  )
  return JSON.stringify({ ...file, folio: { ...file.folio, sheets, maps, datasets }, contents })
}

/** The last folio of each version. */
const ofEachVersion = archived.filter(({ version }, i) => archived[i + 1]?.version !== version)

/** Whole files in formats of our own: folios of every print and version, templates, looks, styles, steps. */
export function ownSeeds(): Record<string, Seed[]> {
  const seed = (fileName: string, text: string, bringIn: BringIn): Seed => ({
    fileName,
    bytes: bytesOf(text),
    counts: false,
    json: true,
    bringIn,
  })
  const one = archived[archived.length - 1]
  const { folio } = readFolioFile(archivedFile(one))
  const steps: PrepStep[] = folio.datasets.flatMap((dataset) => dataset.steps)
  const styles = folio.maps
    .flatMap(({ layers }) => layers)
    .slice(0, 30)
    .map((layer, i) => ({ ...styleOf(layer), id: `${i}`, name: layer.name }))
  const template = templateOf(folio.sheets[0], folio, { id: 't', name: 'One', about: '' })
  return {
    folios: archived.map((each) =>
      seed(
        `${each.version}-${each.print}.json`,
        JSON.stringify((JSON.parse(archivedFile(each)) as { folio: unknown }).folio),
        asDocument,
      ),
    ),
    'folio files': ofEachVersion.map((each) => ({
      ...seed(`${each.version}.keen.json`, ofOneSheet(archivedFile(each), 'amounts-a4'), asFile),
      oneOf: 4,
      longestMs: 20_000,
    })),
    settings: folio.sheets.map(({ id }) => ({
      ...seed(`${id}.keen.json`, ofOneSheet(archivedFile(one), id), asFile),
      settings: true,
      // A whole sheet is drawn of it.
      oneOf: 8,
      longestMs: 60_000,
    })),
    templates: [
      seed('one.keen-template.json', writeTemplateFile({ template, pictures: new Map() }), asTemplate),
    ],
    looks: [seed('looks.keen-looks.json', writeLooks(looksOf(folio)), here(readLooks))],
    styles: [seed('styles.keen-styles.json', writeStyles(styles), here(readStyles))],
    steps: [seed('a.steps.json', writeSteps(steps), here(readSteps))],
  }
}
