import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { prepareDatasets } from '@/core/data/prepare'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import type { Node } from '@/core/scene/scene'
import { walk } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { sheetContext, sheetFonts } from '../compose-sheet'
import { chart } from '../parts/chart'
import { chartProblem, drawChart } from '../parts/chart/draw'
import { spread } from '../parts/chart/lines'
import { chartFormIds } from '../parts/chart/spec'
import { cellsOfTable, plainTable, table } from '../parts/table'
import { makePart } from '../registry'
import { rowColours } from './row-colours'
import { decimalsOf, roundMarks, sortedRows } from './rows'

const { folio, contents } = openDemo()
const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
const [sheet] = folio.sheets
const map = folio.maps.find(({ id }) => id === 'loans')!
const layer = map.layers.find(({ inLegend }) => inLegend)!
const prepared = datasets.get(layer.datasetId)!
const settings = plainTable(layer.datasetId, prepared)
const given = { sheet, map, maps: folio.maps, datasets, centres: new Map(), pictures: [] }
const plainChart = chart.initial(given)!.settings
const parts = [
  ...sheet.parts,
  makePart('table', { id: 't', name: 'T', box: { x: 0, y: 0, width: 60, height: 9 } }, settings),
  makePart('chart', { id: 'c', name: 'C', box: { x: 0, y: 0, width: 60, height: 40 } }, plainChart),
]
const own = { ...sheet, parts }
const fonts = fontBookOf(sheetFonts(own, folio.maps, folio.typeStyles))
const context = sheetContext({
  sheet: own,
  maps: folio.maps,
  typeStyles: folio.typeStyles,
  datasets,
  fonts,
  folioName: '',
  author: '',
  date: new Date(0),
})
const source = { panelId: null, layerId: layer.id }
const box = { x: 5, y: 7, width: 60, height: 40 }
const wordsIn = (nodes: Node[]): string[] =>
  [...walk(nodes)].flatMap((node) => (node.type === 'text' ? [node.text] : []))

describe('rows', () => {
  const dataset: Dataset = {
    rowCount: 4,
    geometry: { kind: 'none' },
    fields: [
      { key: 'n', column: numberColumn([3, null, 1.5, 2]) },
      { key: 'w', column: textColumn(['Row 10', 'Row 9', null, 'row 1']) },
    ],
  }
  it('are sorted by numbers or by words as people count, those without a value last', () => {
    expect(sortedRows(dataset, 'n', false)).toEqual([2, 3, 0, 1])
    expect(sortedRows(dataset, 'n', true)).toEqual([0, 3, 2, 1])
    expect(sortedRows(dataset, 'w', false)).toEqual([3, 1, 0, 2])
    expect(sortedRows(dataset, 'gone', true)).toEqual([0, 1, 2, 3])
    expect(decimalsOf(dataset.fields[0].column, [0, 2])).toBe(1)
    expect(decimalsOf(dataset.fields[0].column, [0, 3])).toBe(0)
  })
})

describe('round marks', () => {
  it('hold the range, at steps of 1, 2 or 5, about as many as asked for', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        (low, span) => {
          const marks = roundMarks(low, low + span, 5)
          expect(marks[0]).toBeLessThanOrEqual(low + span * 1e-6)
          expect(marks[marks.length - 1]).toBeGreaterThanOrEqual(low + span * (1 - 1e-6))
          expect(marks.length).toBeLessThanOrEqual(8)
        },
      ),
    )
    expect(roundMarks(3, 3, 5)).toEqual([3])
  })
})

describe('labels moved apart', () => {
  it('keep their order and their distance, and stay where there is room', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 50, noNaN: true }), { minLength: 1, maxLength: 12 }),
        (heights) => {
          const moved = spread(heights, 3)
          const order = heights
            .map((_, i) => i)
            .sort((a, b) => heights[a] - heights[b] || moved[a] - moved[b])
          order.slice(1).forEach((i, k) => expect(moved[i] - moved[order[k]]).toBeGreaterThan(3 - 1e-6))
        },
      ),
    )
    expect(spread([0, 10, 20], 3)).toEqual([0, 10, 20])
    expect(spread([5, NaN, 5], 2)).toEqual([4, NaN, 6])
  })
})

describe('a table', () => {
  it('has the first rows in order, numbers to the right, and sums of totals alone', () => {
    const cells = cellsOfTable({ ...settings, totals: true, rows: 3 }, context)!
    expect(cells.rows).toHaveLength(3)
    const numbers = cells.rows.map(({ cells: row }) => Number(row[1].replace(/,/g, '')))
    expect(numbers).toEqual([...numbers].sort((a, b) => b - a))
    expect(cells.total?.[0]).toBe('Together')
    expect(Number(cells.total?.[1].replace(/,/g, ''))).toBe(numbers.reduce((a, b) => a + b, 0))
    expect(cells.right).toEqual([false, true, true])
  })

  it('is as wide as its content where the part is narrower, and follows names given for readers', () => {
    const narrow = table.measure(settings, { ...box, width: 5 }, context)
    expect(narrow.width).toBeGreaterThan(20)
    expect(table.measure(settings, { ...box, width: 200 }, context).width).toBe(200)
    const renamed = {
      ...settings,
      columns: [{ ...settings.columns[0], label: 'District' }, ...settings.columns.slice(1)],
    }
    expect(wordsIn(table.compose(renamed, box, context, { id: 't', name: 'T', rotationDeg: 0 }))).toContain(
      'District',
    )
  })

  it('is lower in pieces beside each other', () => {
    const one = table.measure({ ...settings, rows: 20 }, box, context)
    const two = table.measure({ ...settings, rows: 20, blocks: 2 }, box, context)
    expect(two.height).toBeLessThan(one.height * 0.6)
  })

  it('has swatches in the colours of the map; none for another dataset', () => {
    const colourOf = rowColours(context, source, layer.datasetId)!
    const cells = cellsOfTable({ ...settings, swatch: source }, context)!
    const [first] = sortedRows(prepared.dataset, settings.sortBy, true)
    expect(cells.rows[0].colour).toBe(colourOf(first))
    expect(cells.rows[0].colour).toMatch(/^#[0-9a-f]{6}$/i)
    expect(rowColours(context, source, 'another')).toBe(null)
    expect(cellsOfTable({ ...settings, datasetId: 'gone' }, context)).toBe(null)
  })
})

describe('charts', () => {
  const figures = prepared.dataset.fields
    .filter(({ column }) => column.kind === 'number')
    .map(({ key }) => key)
  const fieldsFor = { bars: 1, lines: 3, histogram: 0, scatter: 2, shares: 3, pyramid: 2 }
  for (const form of chartFormIds)
    it(`${form} are drawn within their box, from the data`, () => {
      const own = {
        ...plainChart,
        form,
        fields: figures.slice(0, fieldsFor[form]),
        source,
        rows: 5,
        title: 'Title',
        gridlines: true,
      }
      expect(chartProblem(own, prepared)).toBe(null)
      const nodes = drawChart(own, box, context)
      expect(wordsIn(nodes)).toContain('Title')
      expect([...walk(nodes)].filter(({ type }) => type === 'path').length).toBeGreaterThan(2)
      for (const node of walk(nodes))
        if (node.type === 'text') {
          expect(node.y).toBeGreaterThan(box.y)
          expect(node.y).toBeLessThan(box.y + box.height + 2)
        }
    })

  it('say what they need', () => {
    expect(chartProblem({ ...plainChart, form: 'scatter', fields: [figures[0]] }, prepared)).toBe(
      'It needs 2 fields of numbers.',
    )
    expect(chartProblem({ ...plainChart, fields: ['gone'] }, prepared)).toBe('It needs a field of numbers.')
    expect(chartProblem({ ...plainChart, form: 'histogram' }, prepared)).toBe(
      'It needs a layer with classes.',
    )
    expect(chartProblem(plainChart, undefined)).toBe('Its dataset is gone.')
    expect(drawChart({ ...plainChart, fields: [] }, box, context)).toEqual([])
  })
})
