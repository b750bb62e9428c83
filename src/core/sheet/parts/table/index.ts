import { formatNumber } from '@/core/classify/labels'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import type { MapSpec } from '@/core/map/spec'
import { createMemory, identity } from '@/core/memory/memory'
import { polyline, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, translate, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type TextStyle } from '@/core/scene/text'
import { colourLeaning, rowColours } from '../../figures/row-colours'
import { decimalsOf, numbersIn, sortedRows } from '../../figures/rows'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { TableSettings, type TableColumn } from './spec'

export { TableSettings } from './spec'

type Cells = {
  heads: string[]
  /** By row, then column. */
  rows: { cells: string[]; colour: string | null }[]
  total: string[] | null
  right: boolean[]
  centred: boolean[]
  /** How many rows the dataset has. */
  of: number
}

/** What stands in the cells of a table; null where its dataset is gone. */
export function cellsOfTable(settings: TableSettings, context: SheetContext): Cells | null {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared) return null
  const { dataset } = prepared
  const rows = sortedRows(dataset, settings.sortBy, settings.descending).slice(0, settings.rows)
  const colourOf = rowColours(context, settings.swatch, settings.datasetId)
  const columns = settings.columns.map((column) => formatted(column, prepared, rows))
  return {
    heads: settings.columns.map(({ field, label }) => label || prepared.fieldMeta(field).label),
    rows: rows.map((row) => ({
      cells: columns.map(({ write }) => write(row)),
      colour: colourOf?.(row) ?? null,
    })),
    total: settings.totals ? totalRow(columns) : null,
    right: columns.map(({ align }) => align === 'right'),
    centred: columns.map(({ align }) => align === 'centre'),
    of: dataset.rowCount,
  }
}

type Formatted = { write: (row: number) => string; total: string; align: 'left' | 'right' | 'centre' }

function formatted({ field, decimals, align }: TableColumn, prepared: Prepared, rows: number[]): Formatted {
  const column = fieldOf(prepared.dataset, field)
  if (!column) return { write: () => '', total: '', align: 'left' }
  const isNumber = column.kind === 'number'
  const own = isNumber ? 'right' : 'left'
  const set = align === 'auto' ? own : align
  if (!isNumber) return { write: (row) => textAt(column, row) ?? '', total: '', align: set }
  const digits = decimals ?? decimalsOf(column, rows)
  const numbers = numbersIn(prepared.dataset, field)
  const write = (value: number) => (Number.isFinite(value) ? formatNumber(value, digits) : '–')
  const isTotal = prepared.fieldMeta(field).role === 'total'
  const sum = rows.reduce((all, row) => all + (Number.isFinite(numbers[row]) ? numbers[row] : 0), 0)
  return { write: (row) => write(numbers[row]), total: isTotal ? write(sum) : '', align: set }
}

/** The sums under the columns that hold totals; the first column that has none says what the row is. */
function totalRow(columns: Formatted[]): string[] {
  const totals = columns.map(({ total }) => total)
  const free = totals.indexOf('')
  if (free >= 0) totals[free] = 'Together'
  return totals
}

type LaidTable = { nodes: Node[]; width: number; height: number }

const remember = createMemory<TableSettings, LaidTable>('tables', { maxBytes: 16 * 2 ** 20 })

const leaning = (settings: TableSettings, context: SheetContext): unknown[] => [
  context.datasets.get(settings.datasetId)?.dataset ?? null,
  context.datasets.get(settings.datasetId)?.entry ?? null,
  ...colourLeaning(context, settings.swatch),
]

/** A table set from (0, 0): columns as wide as their content, wider only where the part is. */
function laidTable(settings: TableSettings, box: PartBox, context: SheetContext): LaidTable {
  const key = identity([box.width, context.fonts, ...leaning(settings, context)])
  return remember(settings, key, () => layOut(settings, box, context))
}

const ruleMm = 0.2

function layOut(settings: TableSettings, box: PartBox, context: SheetContext): LaidTable {
  const cells = cellsOfTable(settings, context)
  if (!cells) return { nodes: [], width: box.width, height: 4 }
  const { fonts } = context
  const [head, body] = [lineStyle(settings.head), lineStyle(settings.body)]
  const bold: TextStyle = { ...body, font: { ...body.font, weight: 600 } }
  const widthOf = (text: string, style: TextStyle) =>
    textNode(fonts, text, style, { x: 0, y: 0, colour: '#000000' }).widthMm
  const shown = [...cells.rows.map((row) => row.cells), ...(cells.total ? [cells.total] : [])]
  const natural = cells.heads.map((label, c) =>
    Math.max(widthOf(label, head), ...shown.map((row) => widthOf(row[c], body))),
  )
  const swatch = settings.swatch && cells.rows.some(({ colour }) => colour) ? body.sizeMm * 1.1 : 0
  const swatchSpace = swatch ? swatch + body.sizeMm * 0.5 : 0
  const { blocks, gapMm } = settings
  const blockGap = Math.max(4, 2 * gapMm)
  const least = swatchSpace + natural.reduce((sum, w) => sum + w, 0) + gapMm * (natural.length - 1)
  const width = Math.max(box.width, blocks * least + (blocks - 1) * blockGap)
  const blockWidth = (width - (blocks - 1) * blockGap) / blocks
  const more = (blockWidth - least) / Math.max(1, natural.length)
  const widths = natural.map((w) => w + more)
  const pace = settings.leading * body.sizeMm
  const headPace = settings.leading * head.sizeMm
  const { capHeightMm } = verticalMetrics(fonts, body)
  const headCap = verticalMetrics(fonts, head).capHeightMm
  const perBlock = Math.ceil(cells.rows.length / blocks)
  const nodes: Node[] = []
  let height = 0

  const line = (y: number, from: number): Node =>
    path(polyline([from, y, from + blockWidth, y]), {
      strokes: [stroke(settings.ruleColour, ruleMm, { cap: 'butt' })],
    })
  /** The texts of one row, whose middle lies at `y`. */
  const rowOf = (
    texts: string[],
    style: TextStyle,
    { left, y, cap, colour }: { left: number; y: number; cap: number; colour: string },
  ) => {
    let x = left + swatchSpace
    return texts.flatMap((text, c): Node[] => {
      const [start, end] = [x, x + widths[c]]
      x = end + gapMm
      if (!text) return []
      const places = { start, middle: (start + end) / 2, end }
      const plainAnchor = cells.right[c] ? 'end' : 'start'
      const anchor = cells.centred[c] ? 'middle' : plainAnchor
      return [textNode(fonts, text, style, { x: places[anchor], y: y + cap / 2, colour, anchor })]
    })
  }
  for (let b = 0; b < blocks; b++) {
    const left = b * (blockWidth + blockGap)
    const rows = cells.rows.slice(b * perBlock, (b + 1) * perBlock)
    const heads = rowOf(cells.heads, head, {
      left,
      y: headPace / 2,
      cap: headCap,
      colour: settings.head.colour,
    })
    const parts: Node[] = [group(`head ${b + 1}`, heads)]
    if (settings.rules !== 'none') parts.push(line(headPace, left))
    rows.forEach(({ cells: texts, colour }, r) => {
      const top = headPace + r * pace
      const middle = top + pace / 2
      if (settings.stripes && r % 2)
        parts.push(
          path(rectangle({ x: left, y: top, width: blockWidth, height: pace }), {
            fill: solid(settings.stripes),
          }),
        )
      if (swatch && colour)
        parts.push(
          path(rectangle({ x: left, y: middle - swatch * 0.36, width: swatch, height: swatch * 0.72 }), {
            fill: solid(colour),
          }),
        )
      parts.push(...rowOf(texts, body, { left, y: middle, cap: capHeightMm, colour: settings.body.colour }))
      if (settings.rules === 'rows') parts.push(line(top + pace, left))
    })
    const isLast = b === blocks - 1
    let bottom = headPace + rows.length * pace
    if (cells.total && isLast) {
      if (settings.rules !== 'none') parts.push(line(bottom, left))
      parts.push(
        ...rowOf(cells.total, bold, {
          left,
          y: bottom + pace / 2,
          cap: capHeightMm,
          colour: settings.body.colour,
        }),
      )
      bottom += pace
    }
    if (settings.rules === 'head') parts.push(line(bottom, left))
    height = Math.max(height, bottom)
    nodes.push(group(`table ${b + 1}`, parts))
  }
  return { nodes, width, height }
}

/** Rows of a dataset as a table that follows them. */
export const table: PartType<TableSettings> = {
  label: 'Table',
  group: 'words',
  settings: TableSettings,
  resize: 'width',
  keepsLabelsOff: true,
  styles: ['head', 'body'],
  measure(settings, box, context) {
    const { width, height } = laidTable(settings, box, context)
    return { width, height: Math.max(2, height) }
  },
  compose(settings, box, context, { name }) {
    const { nodes } = laidTable(settings, box, context)
    return [group(`${name} cells`, nodes, { transform: translate(box.x, box.y) })]
  },
  leansOn: (settings, _, context) => leaning(settings, context),
  fonts: ({ head, body }) => [
    lineStyle(head).font,
    lineStyle(body).font,
    { ...lineStyle(body).font, weight: 600 },
  ],
  initial({ sheet, map, datasets }) {
    const given = worthShowing(map, datasets)
    if (!given) return null
    const { x, y } = innerBox(sheet)
    return {
      box: { x: x + 10, y: y + 10, width: 60, height: 40 },
      settings: plainTable(given.id, given.prepared),
    }
  },
  refs: ({ datasetId, swatch }) => ({
    ...noRefs,
    datasets: [datasetId],
    parts: swatch?.panelId ? [swatch.panelId] : [],
  }),
  remap: (settings, ids) => ({
    ...settings,
    datasetId: renamed(ids.datasets, settings.datasetId),
    swatch: settings.swatch && {
      ...settings.swatch,
      panelId: settings.swatch.panelId && renamed(ids.parts, settings.swatch.panelId),
    },
  }),
}

/** The dataset that a new table or chart shows: that of the map's first thematic layer with figures, or any. */
export function worthShowing(
  map: MapSpec | null,
  datasets: Map<string, Prepared>,
): { id: string; prepared: Prepared } | null {
  const layers = map?.layers ?? []
  const thematic = layers.filter(({ symbology }) => kindOf(symbology.kind).thematic)
  const ids = [...[...thematic, ...layers].map(({ datasetId }) => datasetId), ...datasets.keys()]
  const id = ids.find((one) => {
    const fields = datasets.get(one)?.dataset.fields ?? []
    return (
      fields.some(({ column }) => column.kind === 'number') &&
      fields.some(({ column }) => column.kind === 'text')
    )
  })
  const prepared = id === undefined ? undefined : datasets.get(id)
  return id !== undefined && prepared ? { id, prepared } : null
}

/** A table that waits for a dataset, as templates have one. */
export function waitingTable(): TableSettings {
  return {
    datasetId: '',
    columns: [{ field: '', label: '', decimals: null, align: 'auto' }],
    sortBy: null,
    descending: true,
    rows: 10,
    totals: false,
    swatch: null,
    blocks: 1,
    rules: 'head',
    ruleColour: '#1b1b1b',
    stripes: null,
    leading: 1.5,
    gapMm: 4,
    head: inStyle('legend-heading'),
    body: inStyle('legend-label'),
  }
}

/** A table of the name and the first figures of a dataset, the largest first. */
export function plainTable(datasetId: string, prepared: Prepared): TableSettings {
  const { fields } = prepared.dataset
  const name = fields.find(({ key }) => prepared.fieldMeta(key).role === 'name') ?? fields[0]
  const figures = fields
    .filter(
      ({ key, column }) =>
        column.kind === 'number' && !['code', 'date'].includes(prepared.fieldMeta(key).role),
    )
    .slice(0, 2)
  return {
    ...waitingTable(),
    datasetId,
    columns: [name, ...figures].map(({ key }) => ({ field: key, label: '', decimals: null, align: 'auto' })),
    sortBy: figures[0]?.key ?? null,
  }
}
