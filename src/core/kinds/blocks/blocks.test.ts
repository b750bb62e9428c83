import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { ringAreas } from '@/core/cartogram/plane'
import { blockArea } from '@/core/cartogram/block-grid'
import { addressesOf } from '@/core/cartogram/blocks/cells'
import type { Areas } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { drain } from '@/core/grid/steps'
import { kindData } from '@/core/map/layer-plan'
import { createProjection } from '@/core/projection/projection'
import { adviseEqualArea } from '@/core/projection/adviser'
import { extentOf } from '@/core/geo/extent'
import { blocks } from './index'
import { handOf, makeBlocks, settled } from './shapes'
import type { BlocksSettings } from './spec'

const { datasets } = openDemo()
const districts = datasets.get('districts')!
const data = kindData(districts)
const geometry = districts.dataset.geometry as Areas
const plane = adviseEqualArea(extentOf([geometry])!)
const settings: BlocksSettings = {
  ...blocks.initial(data),
  size: 'population',
  value: 5000,
  region: 'province',
  field: 'lib_loans_2025',
  per: 'population',
}
const people = numbersOf(fieldOf(districts.dataset, 'population')!)
const total = people.reduce((sum, n) => sum + (n > 0 ? n : 0), 0)
const plan = blocks.plan(settings, data)
const made = drain(makeBlocks(plan, settings, data, plane))!

describe('the plan of a block cartogram', () => {
  it('gives the districts together as many blocks as all their people are worth', () => {
    expect(plan.total).toBe(total)
    expect(plan.blocks).toBe(Math.round(total / 5000))
    expect(plan.bodies.reduce((sum, body) => sum + body.blocks, 0)).toBe(plan.blocks)
    for (const { amount, blocks: own } of plan.bodies) expect(Math.abs(own - amount / 5000)).toBeLessThan(1)
  })
  it('puts small districts together within their province and names them', () => {
    const groups = plan.bodies.filter(({ rows }) => rows.length > 1)
    expect(groups.length).toBeGreaterThan(0)
    const province = fieldOf(districts.dataset, 'province')!
    if (province.kind !== 'text') throw new Error('Provinces are text.')
    for (const { rows, amount } of groups) {
      expect(new Set(rows.map((row) => province.codes[row])).size).toBe(1)
      expect(amount).toBeGreaterThanOrEqual(2500)
    }
    // Nobody is in two bodies.
    const all = plan.bodies.flatMap(({ rows }) => rows)
    expect(new Set(all).size).toBe(all.length)
  })
  it('shades a group by the sums of its members, not by one of them', () => {
    const [group] = plan.bodies.filter(({ rows }) => rows.length > 1)
    const loans = numbersOf(fieldOf(districts.dataset, 'lib_loans_2025')!)
    const known = group.rows.filter((row) => Number.isFinite(loans[row]) && Number.isFinite(people[row]))
    const rate =
      known.reduce((sum, row) => sum + loans[row], 0) / known.reduce((sum, row) => sum + people[row], 0)
    expect(plan.values[group.row]).toBeCloseTo(rate, 12)
    const summed = blocks.plan({ ...settings, per: null }, data)
    expect(summed.values[group.row]).toBe(known.reduce((sum, row) => sum + loans[row], 0))
  })
  it('shares blocks out among fields so that they add up in each district', () => {
    const fields = ['members_under_18', 'members_18_to_39', 'members_40_to_64', 'members_65_and_over']
    const parts = fields.map((field) => ({ field, colour: '#336699' }))
    const shared = blocks.plan({ ...settings, parts }, data)
    shared.bodies.forEach(({ blocks: own, rows }, body) => {
      const has = rows.some((row) =>
        fields.some((field) => numbersOf(fieldOf(districts.dataset, field)!)[row] > 0),
      )
      expect(shared.partBlocks![body].reduce((sum, n) => sum + n, 0)).toBe(has ? own : 0)
    })
    expect(blocks.caution(shared, { ...settings, parts }, data)?.words).toMatch(/add up to \d+(\.\d)? % of/)
  })
})

describe('a block cartogram of the demo', () => {
  it('is exact, torn nowhere, and keeps 85 of 100 borders', () => {
    expect(made.judged).toMatchObject({ wrong: [], torn: [], has: plan.blocks })
    expect(made.judged.touching / made.judged.pairs).toBeGreaterThan(0.85)
    expect(blocks.shapes?.figures?.(made)[0]).toBe('1,084 blocks, every area exact')
    expect(blocks.shapes?.remark(made)).toBe('')
  })
  it('has shapes as large as their blocks, under the names of groups', () => {
    const measured = ringAreas(projectGeometry(made.dataset.geometry, createProjection(plane)) as Areas)
    const each = blockArea('hexagons', settings.sideM)
    const names = fieldOf(made.dataset, 'name')!
    for (const { row, blocks: own, rows, name } of plan.bodies) {
      expect(Math.abs(measured[row] / each - own)).toBeLessThan(0.02 * own)
      if (rows.length > 1 && names.kind === 'text') expect(names.dictionary[names.codes[row] - 1]).toBe(name)
    }
  })
  const hand = handOf(made.cells, plan)
  it('is the same when its blocks stand in the folio', () => {
    const again = drain(makeBlocks(plan, { ...settings, hand }, data, plane))!
    expect(handOf(again.cells, plan)).toEqual(hand)
    expect(again.judged).toEqual(made.judged)
  })
  it('says which blocks belong to nobody any more, or to two', () => {
    const [first, second] = plan.bodies
    const odd = {
      ...hand,
      Nowhere: [0, 900, 902],
      [second.name]: [...hand[second.name], ...hand[first.name]],
    }
    const remark = blocks.shapes!.remark(drain(makeBlocks(plan, { ...settings, hand: odd }, data, plane)))
    expect(remark).toMatch(/3 blocks placed by hand for what is not there any more left out: Nowhere\./)
    expect(remark).toMatch(/blocks? that two areas have/)
  })
  it('finds what a district lacks when it settles, and leaves what is kept', () => {
    const [big, other] = [...plan.bodies].sort((a, b) => b.blocks - a.blocks)
    const less = { ...hand, [big.name]: hand[big.name].slice(0, 3) }
    const drawn = { ...settings, hand: less, kept: [other.name] }
    expect(drain(makeBlocks(plan, drawn, data, plane))!.judged.wrong).toHaveLength(1)
    const after = drain(settled(plan, drawn, geometry, plane))
    expect(drain(makeBlocks(plan, { ...settings, hand: after }, data, plane))!.judged.wrong).toEqual([])
    expect(addressesOf(after[other.name]).length).toBe(2 * other.blocks)
    expect(after[other.name]).toEqual(hand[other.name])
  })
  it('leaves out what the projection does not show, and says so', () => {
    // A cone turned to the other side of the globe.
    const away = { ...plane, id: 'orthographic' as const, centre: [150, -48] as [number, number] }
    const shapes = drain(makeBlocks(plan, settings, data, away))
    expect(blocks.shapes!.remark(shapes)).toMatch(
      /areas of [\d,]+ blocks that the projection does not show left out/,
    )
  })
})

it('says in its legend what one block is, as large as it is in the panel', () => {
  const { items } = blocks.legend(plan, settings, data, { scaleDenominator: 2e6, mmPerMetre: 1 / 2000 })
  const block = items.find(({ key }) => key === 'block')!
  expect(block.label).toBe('1 block: 5,000 persons')
  expect(block.swatch.roomMm!.width).toBeCloseTo(settings.sideM / 2000 + 0.4, 9)
  expect(
    blocks
      .sentence(settings, data)
      .map(({ text }) => text)
      .join(''),
  ).toMatch(
    /^Blocks for districts by population, one block for 5,000, coloured by library loans in 2025 per resident/,
  )
})
