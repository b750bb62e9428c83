import path from 'node:path'
import { InvalidArgumentError, Option, type Command } from 'commander'
import { blockShapes, type BlockShape } from '@/core/cartogram/block-grid'
import type { CartogramForm } from '@/core/cartogram/spec'
import type { Prepared } from '@/core/data/prepare'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import type { BlocksShapes } from '@/core/kinds/blocks/shapes'
import type { BlocksSettings } from '@/core/kinds/blocks/spec'
import type { CartogramShapes } from '@/core/kinds/cartogram'
import type { CartogramSettings } from '@/core/kinds/cartogram/spec'
import { readInput, writeOutput } from './files'

/** What can be made, and the form of a cartogram that it is; blocks are a kind of their own. */
const methods = {
  blocks: null,
  continuous: 'continuous',
  circles: 'circles',
  squares: 'squares',
  'own-shapes': 'own shapes',
  tiles: 'hexagon tiles',
  'square-tiles': 'square tiles',
} as const satisfies Record<string, CartogramForm | null>
type Method = keyof typeof methods
const methodIds = Object.keys(methods) as Method[]

type Flags = {
  field: string
  method: Method
  out: string
  shape: BlockShape
  value?: number
  seed: number
  region?: string
  layer?: string
}

const aboveZero = (text: string): number => {
  const n = Number(text)
  if (!(n > 0) || !Number.isFinite(n)) throw new InvalidArgumentError(`‘${text}’ is no number above zero.`)
  return n
}
const seedNumber = (text: string): number => {
  const n = Number(text)
  if (!Number.isInteger(n) || n < 0 || n > 1e6)
    throw new InvalidArgumentError('It takes a whole number from 0 to 1000000.')
  return n
}

/** The command that makes a cartogram of a file of areas. */
export function addCartogram(program: Command): void {
  program
    .command('cartogram')
    .description('a cartogram of areas as a file, and how good it is as JSON')
    .argument('<file>', 'areas, in any format that can be brought in')
    .requiredOption('--field <name>', 'the field that areas are sized by')
    .addOption(
      new Option('--method <method>', 'what stands for an area')
        .choices(methodIds)
        .default('blocks' as Method),
    )
    .requiredOption('--out <file>', 'where to write it, as .geojson or .svg')
    .addOption(
      new Option('--shape <shape>', 'what blocks look like').choices(blockShapes).default('hexagons'),
    )
    .option(
      '--value <n>',
      'what a block stands for; a round number for some 1,200 blocks without it',
      aboveZero,
    )
    .option('--seed <n>', 'another one lays the blocks out in another way', seedNumber, 1)
    .option('--region <field>', 'the field within whose values small areas are put together to blocks')
    .option('--layer <name>', 'the layer to read, where the file holds several')
    .action(makeCartogramFile)
}

async function makeCartogramFile(file: string, flags: Flags): Promise<void> {
  const name = path.basename(file)
  const ending = path.extname(flags.out).toLowerCase()
  if (ending !== '.geojson' && ending !== '.svg')
    throw new Error(`${path.basename(flags.out)} ends neither in .geojson nor in .svg.`)
  const { prepareFiles } = await import('./prepare-files')
  const { prepared, remarks } = await prepareFiles(
    [{ fileName: name, bytes: readInput(file) }],
    [],
    flags.layer === undefined ? {} : { layers: [flags.layer] },
  )
  const { dataset } = prepared
  if (dataset.geometry.kind !== 'areas') throw new Error(`A cartogram needs areas; ${name} holds none.`)
  for (const field of [flags.field, ...(flags.region === undefined ? [] : [flags.region])])
    if (!dataset.fields.some(({ key }) => key === field))
      throw new Error(
        `${name} has no field “${field}”. It has: ${dataset.fields.map(({ key }) => key).join(', ')}.`,
      )
  if (dataset.fields.find(({ key }) => key === flags.field)?.column.kind !== 'number')
    throw new Error(`The field “${flags.field}” holds text, not numbers.`)
  const made = await cartogramOf(prepared, flags)
  if (made.rows.geometry.kind === 'none')
    throw new Error(`Nothing could be made. ${made.remark || `“${flags.field}” has no value above zero.`}`)
  writeOutput(flags.out, ending === '.svg' ? await svgOf(prepared, made) : await geoJsonOf(prepared, made))
  for (const words of [...remarks, made.remark].filter(Boolean)) console.error(words)
  console.log(JSON.stringify({ method: flags.method, projection: made.map.projection.id, ...made.quality }))
}

async function cartogramOf(prepared: Prepared, { field, method, shape, value, seed, region }: Flags) {
  const { kindOf, symbologyOf } = await import('@/core/kinds/registry')
  const { kindData, planOf, shapesOf } = await import('@/core/map/layer-plan')
  const { makeLayer, makeMap } = await import('@/core/map/spec')
  const { adviseEqualArea } = await import('@/core/projection/adviser')
  const { extentOf } = await import('@/core/geo/extent')
  const data = kindData(prepared)
  const form = methods[method]
  const kindId = form === null ? 'blocks' : 'cartogram'
  const kind = kindOf(kindId)
  const sized = { size: field, field, per: null }
  const { firstBlock } = await import('@/core/kinds/blocks')
  const initial = kind.initial(data)
  const settings =
    form === null
      ? {
          ...(initial as BlocksSettings),
          ...sized,
          ...firstBlock(data, field),
          shape,
          seed,
          ...(value !== undefined && { value }),
          region: region ?? null,
        }
      : { ...(initial as CartogramSettings), ...sized, form }
  const layer = makeLayer({
    id: 'cartogram',
    name: prepared.entry.name,
    datasetId: prepared.entry.id,
    symbology: symbologyOf(kindId, kind.settings.parse(settings)),
  })
  const map = makeMap({
    id: 'map',
    name: prepared.entry.name,
    projection: adviseEqualArea(extentOf([prepared.dataset.geometry]) ?? [-180, -90, 180, 90]),
    background: '#ffffff',
    layers: [layer],
  })
  const plan = planOf(layer, prepared)
  const shapes = shapesOf(layer, prepared, plan, map.projection)
  const rows = kind.shapes?.rows?.(shapes) ?? prepared.dataset
  const told =
    form === null ? withBlocks(rows, plan as BlocksPlan, shapes as BlocksShapes) : { rows, remark: '' }
  return {
    map,
    rows: told.rows,
    remark: [kind.shapes?.remark(shapes) ?? '', told.remark].filter(Boolean).join(' '),
    quality:
      form === null ? qualityOfBlocks(shapes as BlocksShapes) : qualityOfForm(shapes as CartogramShapes),
  }
}

/**
 * Rows with the group that each belongs to and, beside its shape, how many blocks that has; and how many rows have no
 * shape, since the blocks of their group stand with another.
 */
function withBlocks(
  rows: Dataset,
  plan: BlocksPlan,
  shapes: BlocksShapes,
): { rows: Dataset; remark: string } {
  if (!shapes || rows.geometry.kind !== 'areas') return { rows, remark: '' }
  const { featureStarts } = rows.geometry
  const every = Array.from({ length: rows.rowCount }, (_, row) => row)
  const hasShape = (row: number): boolean => featureStarts[row + 1] > featureStarts[row]
  const bodyOf = (row: number): number => plan.bodyOf[row] ?? -1
  const shared = every.filter(
    (row) => !hasShape(row) && bodyOf(row) >= 0 && plan.bodies[bodyOf(row)].rows.length > 1,
  )
  const taken = new Set(rows.fields.map(({ key }) => key))
  const free = (key: string): string => (taken.has(key) ? free(`${key}_`) : key)
  const fields = [
    ...rows.fields,
    { key: free('blocks'), column: numberColumn(every.map((row) => blocksAt(row))) },
    { key: free('group'), column: textColumn(every.map((row) => plan.bodies[bodyOf(row)]?.name ?? null)) },
  ]
  function blocksAt(row: number): number | null {
    const body = bodyOf(row)
    return hasShape(row) && body >= 0 && shapes ? shapes.cells[body].length / 2 : null
  }
  return {
    rows: { ...rows, fields },
    remark: shared.length
      ? `${shared.length} of ${rows.rowCount} areas are too small for blocks of their own: they have no shape, and the field group says with which their blocks stand.`
      : '',
  }
}

const share = (part: number, whole: number): number | null => (whole > 0 ? part / whole : null)

function qualityOfBlocks(shapes: BlocksShapes): Record<string, unknown> {
  if (!shapes) return {}
  const { has, wanted, wrong, torn, pairs, touching, overWater, likeness, shift, turnedDeg } = shapes.judged
  return {
    blocks: has,
    wanted,
    exact: wrong.length === 0,
    torn: torn.length,
    borders: pairs,
    bordersKept: share(touching, pairs),
    overWater,
    likeness,
    shiftBlocks: shift,
    turnedDeg,
  }
}

function qualityOfForm(shapes: CartogramShapes): Record<string, unknown> {
  if (!shapes) return {}
  const { judged, fit, likeness, without, unplaced, drawnIn } = shapes.made
  return {
    borders: judged.pairs,
    bordersKept: share(judged.touching, judged.pairs),
    likeness: Number.isFinite(likeness) ? likeness : null,
    shiftM: judged.shiftM,
    turnedDeg: judged.turnedDeg,
    ...(fit && {
      worstError: fit.worst,
      meanError: fit.mean,
      rightAreas: fit.right,
      ofAreas: fit.of,
      rounds: fit.rounds,
      folds: fit.folds,
    }),
    without,
    unplaced,
    drawnIn,
  }
}

type Made = Awaited<ReturnType<typeof cartogramOf>>

async function geoJsonOf(prepared: Prepared, { rows }: Made): Promise<Uint8Array> {
  const { writeDataset } = await import('@/formats/writers/registry')
  const { bytes } = await writeDataset('geojson', {
    dataset: rows,
    name: prepared.entry.name,
    fieldMeta: prepared.fieldMeta,
    fieldNames: 'short',
    crs: 'EPSG:4326',
  })
  return bytes
}

/** The drawing, on a page that it fills. */
const pageMm = { width: 200, height: 160 }

async function svgOf(prepared: Prepared, { map, rows }: Made): Promise<Buffer> {
  const { composeMap } = await import('@/core/map/compose-map')
  const { mapFonts } = await import('@/core/sheet/parts/panel')
  const { fitView } = await import('@/core/map/view')
  const { createProjection } = await import('@/core/projection/projection')
  const { fontBookOf, readFontFile } = await import('@/render/font-files')
  const { writeSvg } = await import('@/render/svg/write')
  const fonts = fontBookOf(mapFonts(map))
  const view = fitView(createProjection(map.projection), [rows.geometry], pageMm)
  if (!view) throw new Error('There is nothing to draw.')
  const group = composeMap({
    map,
    view,
    window: { x: 0, y: 0, ...pageMm },
    datasets: new Map([[prepared.entry.id, prepared]]),
    fonts,
    toleranceMm: 0.02,
  })
  const scene = {
    widthMm: pageMm.width,
    heightMm: pageMm.height,
    background: map.background,
    title: map.name,
    author: '',
    children: [group],
  }
  return Buffer.from(writeSvg(scene, { fonts, text: 'embedded', fontBytes: readFontFile }))
}
