import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { featureAt } from '@/core/geo/feature-at'
import { kindData } from '@/core/map/layer-plan'
import { geodesicMetres } from '@/core/projection/ground'
import { dots, totalOf } from '.'
import { closeness, closingValue, dotCounts, proposedValue } from './counts'
import { placeDots } from './place'
import { randomFrom } from '@/core/grid/random'
import { drain } from '@/core/grid/steps'
import { makeDotShapes } from './shapes'
import type { DotSettings } from './spec'

const { datasets } = openDemo()
const districts = datasets.get('districts')!
const data = kindData(districts)
const by = (more: Partial<DotSettings> = {}): DotSettings => ({ ...dots.initial(data), ...more })
const lakes = datasets.get('lakes')!.dataset.geometry
const square = [
  [
    [
      [0, 0],
      [2, 0],
      [2, 2],
      [0, 2],
      [0, 0],
    ],
    [
      [0.5, 0.5],
      [0.5, 1.5],
      [1.5, 1.5],
      [1.5, 0.5],
      [0.5, 0.5],
    ],
  ],
]
const pairs = (lonLat: Float64Array): [number, number][] =>
  Array.from({ length: lonLat.length / 2 }, (_, i) => [lonLat[2 * i], lonLat[2 * i + 1]])

describe('how many dots', () => {
  it('add up to what the sum is worth, each within one of its own worth', () => {
    const values = fc.array(
      fc.oneof(fc.double({ min: 0, max: 1e6, noNaN: true }), fc.constantFrom(NaN, -5, 0)),
      {
        maxLength: 60,
      },
    )
    fc.assert(
      fc.property(values, fc.double({ min: 0.5, max: 1e5, noNaN: true }), (list, each) => {
        const counts = dotCounts(list, each)
        const worth = list.reduce((sum, value) => sum + (value > 0 ? value / each : 0), 0)
        expect(counts.reduce((sum, n) => sum + n, 0)).toBe(Math.round(worth))
        list.forEach((value, i) => {
          if (value > 0) expect(Math.abs(counts[i] - value / each)).toBeLessThan(1 + 1e-6)
          else expect(counts[i]).toBe(0)
        })
      }),
    )
  })

  it('go to the largest remainders, and to the first of equal ones', () => {
    expect([...dotCounts([140, 130, 130], 100)]).toEqual([2, 1, 1])
    expect([...dotCounts([150, 150, 100], 100)]).toEqual([2, 1, 1])
    expect([...dotCounts([40, 30, 30], 100)]).toEqual([1, 0, 0])
  })

  it('are some thousands for the value that is proposed, which is a round one', () => {
    for (const total of [12, 960, 5_418_330, 8e9]) {
      const each = proposedValue(total)
      expect(total / each).toBeLessThanOrEqual(6010)
      expect(total / each).toBeGreaterThan(2000)
      expect(String(each).replace(/[.0]|e[+-]\d+/g, '')).toMatch(/^[125]$/)
    }
    expect(proposedValue(0)).toBe(1)
  })
})

describe('how closed a map is', () => {
  it('is one where dots of half a millimetre stand in an even net that touches', () => {
    // Rows of a net are √3 ∕ 2 of a dot apart: 4.62 dots of 0.5 mm on a square millimetre.
    const perMm2 = 2 / (Math.sqrt(3) * 0.25)
    expect(closeness(perMm2, { sizeMm: 0.5, scaleDenominator: 1e6 })).toBeCloseTo(1, 9)
    expect(closeness(perMm2, { sizeMm: 0.5, scaleDenominator: 2e6 })).toBeCloseTo(4, 9)
  })

  it('leads to the round value of a dot at which it just closes', () => {
    expect(closingValue(200, 4.1)).toBe(1000)
    expect(closingValue(1000, 0.24)).toBe(200)
    expect(closingValue(500, 1.1)).toBe(500)
    expect(closingValue(500, 0)).toBe(500)
  })
})

describe('places of dots', () => {
  it('lie in the area and not in its holes, evenly by ground area', () => {
    const { lonLat } = placeDots(square, 3000, { random: randomFrom(7) })
    let left = 0
    for (const [lon, lat] of pairs(lonLat)) {
      expect(lon).toBeGreaterThan(0)
      expect(lon).toBeLessThan(2)
      expect(lon > 0.5 && lon < 1.5 && lat > 0.5 && lat < 1.5).toBe(false)
      if (lon < 1) left++
    }
    expect(Math.abs(left - 1500)).toBeLessThan(60)
  })

  it('keep a distance, as dots placed by mere chance do not', () => {
    const nearest = (places: [number, number][]) =>
      Math.min(
        ...places.map((a, i) =>
          Math.min(...places.filter((_, j) => j !== i).map((b) => geodesicMetres(a, b))),
        ),
      )
    const n = 300
    const even = pairs(placeDots(square, n, { random: randomFrom(3) }).lonLat)
    const random = randomFrom(3)
    const chance = Array.from({ length: n }, (): [number, number] => [2 * random(), 2 * random()])
    // An even net of as many dots on this ground has this distance.
    const net = Math.sqrt((2 * 0.75 * 222_000 * 222_000) / (Math.sqrt(3) * n))
    expect(nearest(even)).toBeGreaterThan(0.5 * net)
    expect(nearest(chance)).toBeLessThan(0.2 * net)
  })

  it('are the same for the same seed, others for another', () => {
    const at = (seed: number) => [...placeDots(square, 50, { random: randomFrom(seed, 1) }).lonLat]
    expect(at(1)).toEqual(at(1))
    expect(at(1)).not.toEqual(at(2))
  })

  it('stay on ground that is kept, however little; where there is none, that is said', () => {
    const corner = (lon: number, lat: number) => lon < 0.2 && lat < 0.2
    const kept = placeDots(square, 40, { random: randomFrom(1), keep: corner })
    expect(kept.strayed).toBe(0)
    for (const place of pairs(kept.lonLat)) expect(corner(...place)).toBe(true)
    const none = placeDots(square, 40, { random: randomFrom(1), keep: () => false })
    expect(none.strayed).toBe(40)
    expect(pairs(none.lonLat).every(([lon]) => Number.isFinite(lon))).toBe(true)
    const few = placeDots(square, 40, { random: randomFrom(1), keep: (lon) => lon < 0.00001 })
    expect(few.strayed).toBe(40)
    expect(placeDots([], 3, { random: randomFrom(1) }).lonLat).toEqual(new Float64Array(6).fill(NaN))
  })
})

describe('difficult ground', () => {
  it('is a sliver that runs aslant through its box', () => {
    const sliver = [
      [
        [0, 0],
        [10, 10],
        [10, 10.0001],
        [0, 0.0001],
        [0, 0],
      ],
    ]
    const { lonLat } = placeDots([sliver], 200, { random: randomFrom(4) })
    for (const [lon, lat] of pairs(lonLat)) {
      expect(lat - lon).toBeGreaterThan(-1e-4)
      expect(lat - lon).toBeLessThan(2e-4)
    }
    const lons = pairs(lonLat).map(([lon]) => lon)
    expect(Math.max(...lons) - Math.min(...lons)).toBeGreaterThan(8)
  })

  it('is three thousand islands, each with its share', () => {
    const islands = Array.from({ length: 3000 }, (_, i) => {
      const [x, y] = [(i % 60) * 0.1, Math.floor(i / 60) * 0.1]
      const size = i === 0 ? 0.09 : 0.03
      return [
        [
          [x, y],
          [x + size, y],
          [x + size, y + size],
          [x, y + size],
          [x, y],
        ],
      ]
    })
    const { lonLat } = placeDots(islands, 6000, { random: randomFrom(5) })
    const onFirst = pairs(lonLat).filter(([lon, lat]) => lon < 0.095 && lat < 0.095).length
    expect(Math.abs(onFirst - 18)).toBeLessThan(12)
  })
})

describe('a map of dots', () => {
  const settings = by({ fields: [{ field: 'population', colour: '#112233' }], each: 2000 })
  const plan = dots.plan(settings, data)

  it('has in each district as many dots as were counted, all of them within it', () => {
    const { runs } = drain(makeDotShapes(plan, settings, data))
    const counts = new Array<number>(districts.dataset.rowCount).fill(0)
    for (const { lonLat } of runs)
      for (const [lon, lat] of pairs(lonLat)) counts[featureAt(districts.dataset.geometry, lon, lat)]++
    expect(counts).toEqual([...plan.counts[0]])
    expect(plan.dots).toBe(Math.round(totalOf(data, ['population']) / 2000))
  })

  it('has none in the lakes where these are left out', () => {
    const { runs, strayed } = drain(
      makeDotShapes(
        plan,
        { ...settings, mask: { datasetId: 'lakes', within: false } },
        { dataset: districts.dataset, datasetOf: () => datasets.get('lakes')!.dataset },
      ),
    )
    for (const { lonLat } of runs)
      for (const [lon, lat] of pairs(lonLat)) expect(featureAt(lakes, lon, lat)).toBe(-1)
    expect(strayed).toBe(0)
    expect(dots.shapes!.remark({ runs, strayed })).toBe('')
    expect(dots.shapes!.remark({ runs, strayed: 1200 })).toMatch(/^1,200 dots have no such ground/)
  })

  it('mixes several fields: none lies over all of another, and each has its own number', () => {
    const two = by({
      fields: [
        { field: 'population', colour: '#112233' },
        { field: 'households', colour: '#ddeeff' },
      ],
      each: 2000,
    })
    const both = dots.plan(two, data)
    const { runs } = drain(makeDotShapes(both, two, data))
    const length = (field: number) =>
      runs.filter((run) => run.field === field).reduce((sum, { lonLat }) => sum + lonLat.length / 2, 0)
    expect([length(0), length(1)]).toEqual(both.counts.map((own) => own.reduce((sum, n) => sum + n, 0)))
    const firstHalf = runs.slice(0, runs.length / 2)
    const share = (field: number) =>
      firstHalf.filter((run) => run.field === field).reduce((sum, { lonLat }) => sum + lonLat.length / 2, 0) /
      length(field)
    expect(share(0)).toBeCloseTo(0.5, 1)
    expect(share(1)).toBeCloseTo(0.5, 1)
  })

  it('keeps its places whatever colour and size the dots have', () => {
    const key = dots.shapes!.key
    const looks = { ...settings, sizeMm: 3, fields: [{ field: 'population', colour: '#ff0000' }] }
    expect(key(looks)).toBe(key(settings))
    expect(key({ ...settings, seed: 2 })).not.toBe(key(settings))
  })

  it('says what it shows, in its sentence, its legend and beside the pointer', () => {
    expect(
      dots
        .sentence(settings, data)
        .map(({ text }) => text)
        .join(''),
    ).toBe('One dot for 2,000 persons of population in districts.')
    const members = { ...settings, fields: [{ field: 'members_under_18', colour: '#aa0000' }] }
    // A unit that the field's name begins with is not said twice.
    expect(
      dots
        .sentence(members, data)
        .map(({ text }) => text)
        .join(''),
    ).toBe('One dot for 2,000 members under 18 in districts.')
    const legend = dots.legend(plan, settings, data, { scaleDenominator: 3_200_000, mmPerMetre: 1 / 3200 })
    expect(legend.heading).toBe('Population')
    expect(legend.items[0].label).toBe('one dot for 2,000 persons')
    expect(legend.items.slice(1).map(({ label }) => label.replace(/^[\d.,]+/, 'n'))).toEqual(
      new Array(3).fill('n persons per km²'),
    )
    expect(dots.legend(plan, settings, data, null).items).toHaveLength(1)
    expect(dots.read(plan, settings, data, plan.fullest)?.detail).toBe(
      `${plan.counts[0][plan.fullest]} dots of 2,000`,
    )
    expect(
      dots.caution(plan, by({ fields: [{ field: 'med_hh_income', colour: '#000000' }] }), data)?.words,
    ).toMatch(/ratio/)
  })

  it('shows in its legend squares with as many dots as the map has on as much paper', () => {
    const view = { scaleDenominator: 2_000_000, mmPerMetre: 1 / 2000 }
    const { items } = dots.legend(plan, settings, data, view)
    const box = { width: 20, height: 10 }
    const counts = items.slice(1).map(({ swatch }) => {
      const [node] = swatch.sample!(box)
      if (node.type !== 'path' || node.outline.kind !== 'dots') throw new Error('Dots are expected.')
      for (let i = 0; i < node.outline.coords.length; i += 2) {
        expect(node.outline.coords[i] * 1000).toBeLessThan(20)
        expect(node.outline.coords[i + 1] * 1000).toBeLessThan(10)
      }
      return node.outline.coords.length / 2
    })
    const { low, middle, high } = plan.densities!
    // A millimetre of paper is two kilometres of ground.
    expect(counts).toEqual([low, middle, high].map((perKm2) => Math.round(perKm2 * 4 * 200)))
    expect(counts[2]).toBeGreaterThan(counts[0])
  })

  it('takes over fields that another dataset has as well, else proposes one', () => {
    const other = kindData(datasets.get('by-province')!)
    expect(dots.remap(settings, other).fields.map(({ field }) => field)).toHaveLength(1)
    const gone = dots.remap({ ...settings, fields: [{ field: 'nothing', colour: '#000000' }] }, data)
    expect(data.dataset.fields.some(({ key }) => key === gone.fields[0].field)).toBe(true)
  })
})
