import { existsSync } from 'node:fs'
import path from 'node:path'
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander'
import {
  classify,
  maxClasses,
  methodIds,
  methods,
  minClasses,
  qualityOf,
  type MethodId,
} from '@/core/classify/classify'
import { addCartogram } from './cartogram'
import { addDraft } from './draft'
import { fileFault, readInput, writeOutput } from './files'
import { classLabels, decimalsFor, type LabelPattern } from '@/core/classify/labels'
import { labelPatterns, midpointKinds, type Midpoint } from '@/core/classify/spec'
import { fieldOf, formOf, shapeWords } from '@/core/data/dataset'
import { projectionIds, projections, type ProjectionId } from '@/core/projection/catalogue'
import type { Sheet } from '@/core/sheet/spec'
import type { FolioWithData } from '@/formats/folio-file/folio-file'
import { ownFiles } from '@/formats/limits'
import { exportFormatIds, savedAs } from '@/formats/list'
import {
  initialPrint,
  leastDpi,
  mostDpi,
  sheetFormats,
  textForms,
  type PrintSettings,
} from '@/core/print/settings'

const wholeNumber =
  (low: number, high: number) =>
  (text: string): number => {
    const n = Number(text)
    if (!Number.isInteger(n) || n < low || n > high)
      throw new InvalidArgumentError(`It takes a whole number from ${low} to ${high}.`)
    return n
  }

/** Noon, so that it is the same day in every time zone of the land. */
const day = (text: string): Date => {
  const date = new Date(`${text}T12:00:00Z`)
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text) || Number.isNaN(date.getTime()))
    throw new InvalidArgumentError(`‘${text}’ is not a day such as 2031-05-04.`)
  return date
}

/** Ids of the parts of a sheet with some names. @throws Error naming those that there are */
function partsNamed({ name: sheetName, parts }: Sheet, names: readonly string[]): string[] {
  return names.map((name) => {
    const part = parts.find((one) => one.name === name || one.id === name)
    if (!part)
      throw new Error(
        `There is no part “${name}” on “${sheetName}”. There are: ${parts.map((one) => one.name).join(', ')}.`,
      )
    return part.id
  })
}

// What only one command needs is loaded when that command runs: the program starts in a fraction of a second.
const program = new Command('keen')
  .description('Keen Plot on the command line')
  .exitOverride()
  .configureOutput({ writeErr: () => undefined })

program
  .command('render')
  .description('draw a sheet of a folio into a file')
  .argument('<folio>', 'a folio file (.keen.json), or "demo"')
  .option('--sheet <name>', 'the sheet’s name; the first one without it')
  .addOption(new Option('--format <format>', 'what to write').choices(sheetFormats).makeOptionMandatory())
  .option('--dpi <n>', 'dots per inch of a bitmap', wholeNumber(leastDpi, mostDpi), initialPrint.dpi)
  .addOption(
    new Option('--text <how>', 'text in SVG: kept as text, or as outlines')
      .choices(textForms)
      .default(initialPrint.svgText),
  )
  .addOption(
    new Option('--quality <per cent>', 'quality of a JPEG')
      .argParser(wholeNumber(10, 100))
      .default(initialPrint.quality),
  )
  .option(
    '--part <name>',
    'draw this part alone, or with others that are named so',
    (name: string, before: string[]) => [...before, name],
    [],
  )
  .option('--bleed', 'make a PDF larger by the bleed of the sheet')
  .option('--no-georeference', 'do not say in a PDF where its maps lie on the ground')
  .option('--date <day>', 'the day that {{date}} stands for, such as 2031-05-04; today without it', day)
  .requiredOption('--out <file>', 'the file to write')
  .action(
    async (
      folioArgument: string,
      options: {
        sheet?: string
        format: PrintSettings['format']
        dpi: number
        text: PrintSettings['svgText']
        quality: number
        part: string[]
        bleed?: boolean
        georeference: boolean
        date?: Date
        out: string
      },
    ) => {
      const { folio, contents, pictures } = await openFolio(folioArgument)
      const sheet =
        options.sheet === undefined
          ? folio.sheets[0]
          : folio.sheets.find((s) => s.name === options.sheet || s.id === options.sheet)
      if (!sheet)
        throw new Error(
          options.sheet === undefined
            ? `“${folio.name}” has no sheets.`
            : `There is no sheet “${options.sheet}”. There are: ${folio.sheets.map((s) => s.name).join(', ')}.`,
        )
      const { renderSheet } = await import('@/render/sheet')
      const { openedPictures } = await import('@/formats/picture/open')
      const bytes = await renderSheet({
        folio,
        sheetId: sheet.id,
        contents: (id) => contents.get(id) ?? null,
        pictures: openedPictures(folio.pictures, (id) => pictures?.get(id) ?? null),
        settings: {
          format: options.format,
          dpi: options.dpi,
          svgText: options.text,
          quality: options.quality,
          parts: partsNamed(sheet, options.part),
          bleed: options.bleed ?? false,
          georeference: options.georeference,
        },
        date: options.date ?? new Date(),
        remark: (words) => console.error(words),
      })
      writeOutput(options.out, bytes)
      console.log(
        `${options.out}: “${sheet.name}” as ${options.format.toUpperCase()}, ${sheet.page.widthMm} × ${sheet.page.heightMm} mm, ${(bytes.length / 1024).toFixed(0)} kB`,
      )
    },
  )

program
  .command('sheets')
  .description('list the sheets of a folio as JSON')
  .argument('<folio>', 'a folio file (.keen.json), or "demo"')
  .action(async (folioArgument: string) => {
    const { folio } = await openFolio(folioArgument)
    console.log(
      JSON.stringify(
        folio.sheets.map(({ id, name, page, parts }) => ({
          id,
          name,
          widthMm: page.widthMm,
          heightMm: page.heightMm,
          parts: parts.length,
        })),
      ),
    )
  })

const numbers = (text: string): number[] => {
  const list = text.split(',').map((part) => Number(part.trim()))
  if (list.some((n) => !Number.isFinite(n)))
    throw new InvalidArgumentError(`‘${text}’ is not a list of numbers with commas between them.`)
  return list
}
const oneNumber = (text: string): number => {
  if (text.trim() === '' || !Number.isFinite(Number(text)))
    throw new InvalidArgumentError(`‘${text}’ is not a number.`)
  return Number(text)
}
const midpoint = (text: string): Midpoint =>
  (midpointKinds as readonly string[]).includes(text) && text !== 'typed'
    ? { at: text as Midpoint['at'], value: 0 }
    : { at: 'typed', value: oneNumber(text) }

program
  .command('classify')
  .description('class breaks, labels and quality of a field, as JSON')
  .argument('<table>', 'a table or areas, in any format that can be brought in')
  .requiredOption('--field <name>', 'the field')
  .addOption(
    new Option('--method <method>', 'how to set the breaks; equal-area and boundary-error need areas')
      .choices(methodIds)
      .default('natural-breaks'),
  )
  .option('--classes <n>', 'how many classes', wholeNumber(minClasses, maxClasses), 5)
  .option('--per <field>', 'divide by this field')
  .option('--per-count <n>', 'so many of the denominator', oneNumber, 1)
  .option('--breaks <list>', 'inner breaks for the method manual, with commas between them', numbers)
  .option('--locked <list>', 'breaks that stay while the method fits the others around them', numbers)
  .option(
    '--midpoint <where>',
    'the middle of two-sided data: zero, mean, median, national or a number',
    midpoint,
  )
  .addOption(
    new Option('--deviations <width>', 'width of a class in standard deviations')
      .choices(['1', '1/2', '1/3'])
      .default('1'),
  )
  .option('--step <width>', 'width of a class for rounded-steps', oneNumber)
  .option('--rounded', 'make the breaks readable')
  .option('--set-aside <list>', 'values left out of the classes, with commas between them', numbers)
  .addOption(
    new Option('--inclusive <end>', 'which end belongs to a class')
      .choices(['lower', 'upper'])
      .default('lower'),
  )
  .addOption(new Option('--labels <pattern>', 'how classes are worded').choices(labelPatterns).default('to'))
  .action(async (table: string, o: ClassifyFlags) => {
    const name = path.basename(table)
    const { readFile } = await import('@/formats/registry')
    const { groundOf, valuesOf } = await import('@/core/kinds/values')
    const { datasets } = await readFile(readInput(table), name)
    const { dataset } = datasets[0]
    for (const field of [o.field, ...(o.per === undefined ? [] : [o.per])]) {
      const column = fieldOf(dataset, field)
      if (!column)
        throw new Error(
          `${name} has no field “${field}”. It has: ${dataset.fields.map((f) => f.key).join(', ')}.`,
        )
      if (column.kind !== 'number') throw new Error(`The field “${field}” holds text, not numbers.`)
    }
    if (methods[o.method].needs === 'areas' && dataset.geometry.kind !== 'areas')
      throw new Error(`The method ${o.method} needs areas; ${name} holds none.`)
    if (o.method === 'manual' && !o.breaks?.length)
      throw new Error('The method manual needs --breaks, such as --breaks 2,5,10.')
    const shown = { field: o.field, per: o.per ?? null, perCount: o.perCount }
    const values = valuesOf(shown, dataset)
    const setAside = (o.setAside ?? []).map((value) => ({
      id: String(value),
      from: value,
      to: value,
      colour: '#ffffff',
      hatched: false,
      label: String(value),
    }))
    const ground = groundOf(shown, dataset)
    const result = classify(
      values,
      {
        method: o.method,
        classes: o.classes,
        manualBreaks: o.breaks ?? [],
        locked: o.locked ?? [],
        midpoint: o.midpoint ?? null,
        deviations: ({ '1': 1, '1/2': 0.5, '1/3': 1 / 3 } as const)[o.deviations],
        step: o.step ?? null,
        rounded: o.rounded ?? false,
        inclusive: o.inclusive,
        setAside,
      },
      ground,
    )
    if (!result) throw new Error(`The field “${o.field}” has no values.`)
    const { tabular, boundary, moran } = qualityOf(values, result, setAside, ground)
    console.log(
      JSON.stringify({
        breaks: result.breaks,
        counts: result.counts,
        labels: classLabels(result.breaks, decimalsFor(result.breaks), o.labels),
        gvf: result.gvf,
        tabularAccuracy: tabular,
        boundaryAccuracy: boundary,
        moransI: moran?.i ?? null,
        roundingCost: result.roundingCost,
        roundingMoved: result.roundingMoved,
        outside: result.outside,
        missing: result.missing,
        setAside: result.aside,
      }),
    )
  })

type ClassifyFlags = {
  field: string
  method: MethodId
  classes: number
  per?: string
  perCount: number
  breaks?: number[]
  locked?: number[]
  midpoint?: Midpoint
  deviations: '1' | '1/2' | '1/3'
  step?: number
  rounded?: boolean
  setAside?: number[]
  inclusive: 'lower' | 'upper'
  labels: LabelPattern
}

const pair = (text: string): [number, number] => {
  const list = numbers(text)
  if (list.length !== 2)
    throw new InvalidArgumentError(`It takes two numbers with a comma between them, such as -96,23.`)
  return [list[0], list[1]]
}
const degreesWithin =
  (most: number, what: string) =>
  (n: number): number => {
    if (Math.abs(n) > most)
      throw new Error(`${what} of ${n}° does not exist; it lies between −${most}° and ${most}°.`)
    return n
  }

program
  .command('project')
  .description(
    'plane coordinates of a place, as JSON: on a sphere by a projection of the catalogue, or in a reference system',
  )
  .argument('<lon>', 'longitude in degrees, east of Greenwich; set -- before negative ones', oneNumber)
  .argument('<lat>', 'latitude in degrees', oneNumber)
  .addOption(new Option('--projection <id>', 'the projection').choices(projectionIds))
  .option('--origin <lon,lat>', 'longitude of the middle meridian and latitude of the origin', pair, [0, 0])
  .option('--parallels <a,b>', 'standard parallels of conic and cylindrical projections', numbers, [0, 0])
  .option('--radius <r>', 'radius of the sphere; coordinates are in its units', oneNumber, 1)
  .option(
    '--crs <code>',
    'a reference system such as EPSG:3035, in place of a projection; coordinates are in its units',
  )
  .action(
    async (
      lon: number,
      lat: number,
      o: {
        projection?: ProjectionId
        origin: [number, number]
        parallels: number[]
        radius: number
        crs?: string
      },
    ) => {
      degreesWithin(90, 'A latitude')(lat)
      if (!o.projection === !o.crs) throw new Error('Say either --projection or --crs.')
      if (o.crs) {
        const { definitionOf } = await import('@/formats/crs/reproject')
        const { fromDegrees, name, accuracyM } = definitionOf(o.crs)
        const [x, y] = fromDegrees ? fromDegrees(lon, lat) : [lon, lat]
        if (!Number.isFinite(x) || !Number.isFinite(y)) throw new Error(`That place lies outside ${name}.`)
        console.log(JSON.stringify({ x, y, accuracyM }))
        return
      }
      if (!o.projection) return
      if (!(o.radius > 0)) throw new Error('A radius is over zero.')
      const [a, b = a] = o.parallels
      const { parallels } = projections[o.projection]
      if (parallels === 2 && a === -b)
        throw new Error(
          `${projections[o.projection].label} needs --parallels that are not the same distance to both sides of the equator, such as --parallels=29.5,45.5.`,
        )
      degreesWithin(90, 'A latitude')(o.origin[1])
      const { onSphere } = await import('@/core/projection/on-sphere')
      const { x, y } = onSphere(
        {
          id: o.projection,
          centre: o.origin,
          parallels: [degreesWithin(90, 'A parallel')(a), degreesWithin(90, 'A parallel')(b)],
        },
        lon,
        lat,
        o.radius,
      )
      if (!Number.isFinite(x) || !Number.isFinite(y))
        throw new Error('That place is not shown by this projection, or lies infinitely far away in it.')
      console.log(JSON.stringify({ x, y }))
    },
  )

program
  .command('import')
  .description('read files, carry out prep steps on the first, and save the result')
  .argument('<files...>', 'the first is prepared; steps may draw on the others by their names without ending')
  .requiredOption(
    '--out <file>',
    `where to save it; the ending says how: ${exportFormatIds.map((id) => savedAs(id).extension).join(' ')}`,
  )
  .option('--steps <file>', 'a list of prep steps saved from the Data desk')
  .option('--layer <name>', 'the layer to read, where the first file holds several')
  .option('--from-crs <code>', 'the reference system of the first file, where it does not say it')
  .option('--crs <code>', 'the reference system to save in', 'EPSG:4326')
  .addOption(new Option('--names <which>', 'field names').choices(['short', 'readable']).default('short'))
  .action(
    async (
      files: string[],
      options: {
        out: string
        steps?: string
        layer?: string
        fromCrs?: string
        crs: string
        names: 'short' | 'readable'
      },
      command: Command,
    ) => {
      const format = exportFormatIds.find((id) => options.out.toLowerCase().endsWith(savedAs(id).extension))
      if (!format)
        throw new Error(
          `${path.basename(options.out)} has an ending that nothing is saved under. There are: ${exportFormatIds.map((id) => savedAs(id).extension).join(' ')}.`,
        )
      if (savedAs(format).holds === 'cells' && command.getOptionValueSource('crs') === 'cli')
        throw new Error(
          'Cells are saved in the reference system that they came in: leave out --crs, or save to another format.',
        )
      const [{ readSteps }, { prepareFiles }, { writeDataset }] = await Promise.all([
        import('@/formats/steps-file/steps-file'),
        import('./prepare-files'),
        import('@/formats/writers/registry'),
      ])
      const steps =
        options.steps === undefined
          ? []
          : readSteps(readInput(options.steps, ownFiles.small).toString('utf8'), path.basename(options.steps))
      const { prepared, remarks: before } = await prepareFiles(
        files.map((file) => ({ fileName: path.basename(file), bytes: readInput(file) })),
        steps,
        {
          ...(options.layer !== undefined && { layers: [options.layer] }),
          ...(options.fromCrs !== undefined && { crs: options.fromCrs }),
        },
      )
      const { bytes, remarks } = await writeDataset(format, {
        dataset: prepared.dataset,
        name: path.parse(options.out).name,
        fieldMeta: prepared.fieldMeta,
        fieldNames: options.names,
        crs: options.crs,
      })
      writeOutput(options.out, bytes)
      console.log(
        `${options.out}: ${prepared.dataset.rowCount.toLocaleString('en-GB')} ${shapeWords[formOf(prepared.dataset)][prepared.dataset.rowCount === 1 ? 0 : 1]}, ${prepared.dataset.fields.length} fields, ${(bytes.length / 1024).toFixed(0)} kB`,
      )
      for (const remark of [...before, ...remarks]) console.log(`  ${remark}`)
    },
  )

addCartogram(program)
addDraft(program)

async function openFolio(argument: string): Promise<FolioWithData> {
  const { readFolioFile } = await import('@/formats/folio-file/folio-file')
  const demo = ['../../demo/made', '../../demo'].map((folder) =>
    path.resolve(import.meta.dirname, folder, 'a-country-that-reads.keen.json'),
  )
  const file = argument === 'demo' ? (demo.find((one) => existsSync(one)) ?? demo[1]) : argument
  return readFolioFile(readInput(file, ownFiles.folio).toString('utf8'))
}

/** One line that says what is wrong, in words. */
function sayError(error: unknown): string {
  if (error instanceof CommanderError) return error.message.replace(/^error: /, '')
  const fault = fileFault(error)
  if (fault) return fault
  return error instanceof Error ? error.message.split('\n')[0] : String(error)
}

try {
  if (process.argv.length <= 2) program.help()
  await program.parseAsync(process.argv)
} catch (error) {
  if (error instanceof CommanderError && error.exitCode === 0) process.exit(0)
  console.error(`keen: ${sayError(error)}`)
  process.exit(1)
}
