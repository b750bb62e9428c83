import { readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander'
import { classify, maxClasses, methodIds, minClasses, type MethodId } from '@/core/classify/classify'
import { numbersOf } from '@/core/data/column'
import { fieldOf, formOf, shapeWords } from '@/core/data/dataset'
import { readFolioFile, type FolioWithData } from '@/formats/folio-file/folio-file'
import { readFile } from '@/formats/registry'
import { exportFormatIds, exportFormats } from '@/formats/writers/formats'
import { writeDataset } from '@/formats/writers/registry'
import { prepareFiles } from './prepare-files'
import { readSteps } from '@/formats/steps-file/steps-file'
import { renderSheet, sheetFormats, type SheetFormat } from '@/render/sheet'

const wholeNumber = (low: number, high: number) => (text: string): number => {
  const n = Number(text)
  if (!Number.isInteger(n) || n < low || n > high) throw new InvalidArgumentError(`It takes a whole number from ${low} to ${high}.`)
  return n
}

const program = new Command('keen').description('Keen Plot on the command line').exitOverride().configureOutput({ writeErr: () => undefined })

program
  .command('render')
  .description('draw a sheet of a folio into a file')
  .argument('<folio>', 'a folio file (.keen.json), or "demo"')
  .option('--sheet <name>', 'the sheet’s name; the first one without it')
  .addOption(new Option('--format <format>', 'what to write').choices(sheetFormats).makeOptionMandatory())
  .option('--dpi <n>', 'dots per inch of a bitmap', wholeNumber(20, 2400), 300)
  .addOption(new Option('--text <how>', 'text in SVG: kept as text, or as outlines').choices(['embedded', 'outlines']).default('embedded'))
  .requiredOption('--out <file>', 'the file to write')
  .action(async (folioArgument: string, options: { sheet?: string; format: SheetFormat; dpi: number; text: 'embedded' | 'outlines'; out: string }) => {
    const { folio, contents } = openFolio(folioArgument)
    const sheet = options.sheet === undefined ? folio.sheets[0] : folio.sheets.find((s) => s.name === options.sheet || s.id === options.sheet)
    if (!sheet) throw new Error(options.sheet === undefined ? `“${folio.name}” has no sheets.` : `There is no sheet “${options.sheet}”. There are: ${folio.sheets.map((s) => s.name).join(', ')}.`)
    const bytes = await renderSheet({ folio, sheetId: sheet.id, contents: (id) => contents.get(id) ?? null, format: options.format, dpi: options.dpi, svgText: options.text, date: new Date() })
    writeFileSync(options.out, bytes)
    console.log(`${options.out}: “${sheet.name}” as ${options.format.toUpperCase()}, ${sheet.page.widthMm} × ${sheet.page.heightMm} mm, ${(bytes.length / 1024).toFixed(0)} kB`)
  })

program
  .command('sheets')
  .description('list the sheets of a folio as JSON')
  .argument('<folio>', 'a folio file (.keen.json), or "demo"')
  .action((folioArgument: string) => {
    const { folio } = openFolio(folioArgument)
    console.log(JSON.stringify(folio.sheets.map(({ id, name, page, parts }) => ({ id, name, widthMm: page.widthMm, heightMm: page.heightMm, parts: parts.length }))))
  })

program
  .command('classify')
  .description('class breaks of a field of a table, as JSON')
  .argument('<table>', 'a CSV file')
  .requiredOption('--field <name>', 'the field')
  .addOption(new Option('--method <method>', 'how to set the breaks').choices(methodIds.filter((id) => id !== 'manual')).default('natural-breaks'))
  .option('--classes <n>', 'how many classes', wholeNumber(minClasses, maxClasses), 5)
  .action(async (table: string, options: { field: string; method: MethodId; classes: number }) => {
    const { datasets } = await readFile(readFileSync(table), path.basename(table))
    const { dataset } = datasets[0]
    const column = fieldOf(dataset, options.field)
    if (!column) throw new Error(`${path.basename(table)} has no field “${options.field}”. It has: ${dataset.fields.map((f) => f.key).join(', ')}.`)
    if (column.kind !== 'number') throw new Error(`The field “${options.field}” holds text, not numbers.`)
    const result = classify(numbersOf(column), options)
    if (!result) throw new Error(`The field “${options.field}” has no values.`)
    console.log(JSON.stringify({ breaks: result.breaks, counts: result.counts, gvf: result.gvf }))
  })

program
  .command('import')
  .description('read files, carry out prep steps on the first, and save the result')
  .argument('<files...>', 'the first is prepared; steps may draw on the others by their names without ending')
  .requiredOption('--out <file>', `where to save it; the ending says how: ${exportFormatIds.map((id) => exportFormats[id].extension).join(' ')}`)
  .option('--steps <file>', 'a list of prep steps saved from the Data desk')
  .option('--layer <name>', 'the layer to read, where the first file holds several')
  .option('--from-crs <code>', 'the reference system of the first file, where it does not say it')
  .option('--crs <code>', 'the reference system to save in', 'EPSG:4326')
  .addOption(new Option('--names <which>', 'field names').choices(['short', 'readable']).default('short'))
  .action(async (files: string[], options: { out: string; steps?: string; layer?: string; fromCrs?: string; crs: string; names: 'short' | 'readable' }) => {
    const format = exportFormatIds.find((id) => options.out.toLowerCase().endsWith(exportFormats[id].extension))
    if (!format) throw new Error(`${path.basename(options.out)} has an ending that nothing is saved under. There are: ${exportFormatIds.map((id) => exportFormats[id].extension).join(' ')}.`)
    const steps = options.steps === undefined ? [] : readSteps(readFileSync(options.steps, 'utf8'), path.basename(options.steps))
    const prepared = await prepareFiles(files.map((file) => ({ fileName: path.basename(file), bytes: readFileSync(file) })), steps, { ...(options.layer !== undefined && { layers: [options.layer] }), ...(options.fromCrs !== undefined && { crs: options.fromCrs }) })
    const bytes = await writeDataset(format, { dataset: prepared.dataset, name: path.parse(options.out).name, fieldMeta: prepared.fieldMeta, fieldNames: options.names, crs: options.crs })
    writeFileSync(options.out, bytes)
    console.log(`${options.out}: ${prepared.dataset.rowCount.toLocaleString('en-GB')} ${shapeWords[formOf(prepared.dataset)][prepared.dataset.rowCount === 1 ? 0 : 1]}, ${prepared.dataset.fields.length} fields, ${(bytes.length / 1024).toFixed(0)} kB`)
  })

function openFolio(argument: string): FolioWithData {
  const file = argument === 'demo' ? path.resolve(import.meta.dirname, '../../demo/a-country-that-reads.keen.json') : argument
  return readFolioFile(readFileSync(file, 'utf8'))
}

/** One line that says what is wrong, in words. */
function sayError(error: unknown): string {
  if (error instanceof CommanderError) return error.message.replace(/^error: /, '')
  if (error instanceof Error && 'code' in error && error.code === 'ENOENT' && 'path' in error) return `There is no file ${String(error.path)}, or its folder does not exist.`
  return error instanceof Error ? error.message.split('\n')[0] : String(error)
}

try {
  await program.parseAsync(process.argv)
} catch (error) {
  if (error instanceof CommanderError && error.exitCode === 0) process.exit(0)
  console.error(`keen: ${sayError(error)}`)
  process.exit(1)
}
