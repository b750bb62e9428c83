import { describe, expect, it } from 'vitest'
import { paperTransform } from '@/core/map/view'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { gridData, paperOver, projection, window } from '../cells-on-paper/testing'
import { cellCategories } from '.'
import { planCellCategories } from './plan'

/** Stripes of the kinds 3, 12 and 200, four, eight and sixteen columns wide; the last column is empty. */
const kindOf = (column: number): number => [3, 12, 200][[4, 12, 28].findIndex((end) => column < end)] ?? NaN
const data = gridData(29, 20, kindOf)
const settings = cellCategories.initial(data)
const plain = { colour: null, label: null, with: null, shown: true }

describe('cells by kind', () => {
  it('finds the kinds, with their cells and their ground', () => {
    const { categories, missing } = planCellCategories(settings, data)
    expect(categories.map(({ key, cells }) => [key, cells])).toEqual([
      ['3', 80],
      ['12', 160],
      ['200', 320],
    ])
    expect(categories[2].km2 / categories[0].km2).toBeCloseTo(4, 9)
    expect(missing).toBe(20)
    const byGround = planCellCategories({ ...settings, order: 'ground' }, data)
    expect(byGround.categories.map(({ key }) => key)).toEqual(['200', '12', '3'])
  })

  it('names, colours, hides and joins them by hand; colours of others stay', () => {
    const before = planCellCategories(settings, data).categories
    const own = {
      '3': { ...plain, with: '200' },
      '12': { ...plain, shown: false },
      '200': { ...plain, label: 'Woods', colour: '#224422' },
    }
    const { categories } = planCellCategories({ ...settings, own }, data)
    expect(categories.map(({ key, label, cells, shown }) => [key, label, cells, shown])).toEqual([
      ['12', '12', 160, false],
      ['200', 'Woods', 400, true],
    ])
    expect(categories[0].colour).toBe(before[1].colour)
    const legend = cellCategories.legend(
      { categories, missing: 20, tooMany: 0 },
      { ...settings, own },
      data,
      null,
    )
    expect(legend.items.map(({ label }) => label)).toEqual(['Woods'])
  })

  it('takes the colours of the file where it has some', () => {
    const { raster } = data.dataset
    if (!raster) throw new Error('It is a raster.')
    const palette = new Uint32Array(256)
    palette[12] = 0x0a0b0c
    const coloured = { ...data, dataset: { ...data.dataset, raster: { ...raster, palette } } }
    const first = cellCategories.initial(coloured)
    expect(first.set).toBeNull()
    expect(planCellCategories(first, coloured).categories[1].colour).toBe('#0a0b0c')
  })

  it('never mixes kinds on paper, however small the scale', () => {
    for (const scaleDenominator of [2_000_000, 60_000_000]) {
      const to = paperTransform(projection, { centre: [-28.5, 49], scaleDenominator }, window)
      const context = paperOver(data.dataset, to)
      const plan = planCellCategories(settings, data)
      const [node] = cellCategories.draw(plan, settings, context, true) as RasterNode[]
      const rgba = node.rgba(0, node.rows)
      const seen = new Set<string>()
      for (let i = 0; i < rgba.length; i += 4)
        if (rgba[i + 3])
          seen.add(`#${[...rgba.subarray(i, i + 3)].map((c) => c.toString(16).padStart(2, '0')).join('')}`)
      const known = plan.categories.map(({ colour }) => colour)
      expect([...seen].every((colour) => known.includes(colour))).toBe(true)
      expect(seen.size).toBe(3)
    }
  })

  it('is not offered for amounts, and says so where a band holds them', () => {
    const amounts = gridData(40, 20, (column, row) => column + row / 100)
    expect(cellCategories.accepts(amounts)).toBe(false)
    const plan = planCellCategories(settings, amounts)
    expect(plan.categories).toEqual([])
    expect(cellCategories.caution(plan, settings, amounts)?.words).toContain('amounts')
  })

  it('tells the kind under the pointer', () => {
    const plan = planCellCategories({ ...settings, own: { '12': { ...plain, label: 'Fields' } } }, data)
    const pointed = cellCategories.shapes?.at?.(true, [-29.25, 49], { plan, settings, data })
    expect(pointed?.reading.value).toBe('Fields')
    expect(pointed?.reading.detail).toMatch(/^[\d,]+ km² of it$/)
    expect(cellCategories.shapes?.at?.(true, [-27.15, 49], { plan, settings, data })).toBeNull()
  })
})
