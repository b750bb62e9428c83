import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { groundAreas, groundLengths } from '@/core/geo/measure'
import { drain } from '@/core/grid/steps'
import { kindData, layerSteps, mapSteps, planOf, pointedAt, roughMap, shapesOf } from '@/core/map/layer-plan'
import { composeMap } from '@/core/map/compose-map'
import type { Layer } from '@/core/map/spec'
import { walk } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { density } from '../density'
import { bandwidthOf, ruledBandwidthKm } from '../density/source'
import type { DensitySettings } from '../density/spec'
import { interpolated } from '../interpolated'
import { missesOf, variogramView } from '../interpolated/judge'
import type { InterpolatedSettings } from '../interpolated/spec'
import { isolines } from '../isolines'
import { plainPencil } from '../pencil'
import { potential } from '../potential'
import { litWidth } from './shaded'
import { bandLevels, type SurfaceShapes } from './shapes'

const { folio, datasets } = openDemo()
const prepared = (id: string) => datasets.get(id)!
const layerOf = (id: string): Layer =>
  folio.maps.flatMap(({ layers }) => layers).find((layer) => layer.id === id)!
const words = (parts: { text: string }[]) => parts.map(({ text }) => text).join('')

const plane = folio.maps[0].projection
const readers = kindData(prepared('readers'))
const settings: DensitySettings = { ...density.initial(readers), bandwidthKm: 14, perKm2: 100, cellKm: 2 }
const plan = density.plan(settings, readers)
const shapes = drain(density.shapes!.make(plan, settings, readers, plane))

describe('a map of density', () => {
  it('reads aloud what it shows', () => {
    expect(words(density.sentence(settings, readers))).toBe(
      'Density of readers within 14 km, quartic, in six classes by natural breaks, coloured Reed.',
    )
    expect(
      words(density.sentence({ ...settings, weight: 'books', form: 'lines', interval: 5 }, readers)),
    ).toBe('Density of books at readers within 14 km, quartic, as lines every 5, coloured Reed.')
  })

  it('says what its bandwidth is and that all readers lie under the surface', () => {
    expect(plan.figures).toEqual([
      expect.stringContaining('14.0 km bandwidth'),
      expect.any(String),
      '12,000 in all under the surface',
    ])
    const ruled = ruledBandwidthKm(settings, readers)
    expect(bandwidthOf({ ...settings, bandwidthKm: null }, readers)).toBe(ruled)
    expect(ruled).toBeGreaterThan(5)
  })

  it('leaves out what is next to nothing, and names the first class by both its ends', () => {
    expect(plan.least).toBe(Number((plan.max / 50).toPrecision(1)))
    expect(plan.sample.every((value) => value >= plan.least! * 0.999)).toBe(true)
    expect(plan.labels[0]).toMatch(/ to /)
    expect(plan.km2.reduce((a, b) => a + b, 0)).toBeGreaterThan(1000)
  })

  it('fills as much ground with each class as its cells have, to a few percent', () => {
    if (!shapes.bands) throw new Error('There are no classes.')
    const km2 = [...groundAreas(shapes.bands)].map((area) => area / 1e6)
    expect(km2).toHaveLength(plan.km2.length)
    const all = plan.km2.reduce((a, b) => a + b, 0)
    km2.forEach((area, i) => expect(Math.abs(area - plan.km2[i]) / all).toBeLessThan(0.03))
  })

  it('counts what each point stands for, and says which count nothing', () => {
    const weighted = density.plan({ ...settings, weight: 'books' }, readers)
    expect(weighted.max).toBeGreaterThan(plan.max)
    expect(density.caution(plan, { ...settings, weight: null }, readers)).toBeNull()
    expect(density.remap({ ...settings, weight: 'gone' }, readers).weight).toBeNull()
  })

  it('shows where fewer points than wished lie within the bandwidth', () => {
    const unsure = { ...settings, uncertain: { limit: 30, show: 'hatch' as const } }
    const made = drain(density.shapes!.make(density.plan(unsure, readers), unsure, readers, plane))
    expect(made.doubtful?.kind).toBe('areas')
    expect(density.legend(plan, unsure, readers, null).items.at(-1)?.label).toBe(
      'fewer than 30 points within the bandwidth',
    )
  })

  it('drawn by hand fills its classes and its legend with strokes in place of flat colours', () => {
    const map = folio.maps.find(({ id }) => id === 'gathered')!
    const view = { centre: map.projection.centre, scaleDenominator: 6e6 }
    const window = { x: 0, y: 0, width: 120, height: 90 }
    const drawnBy = (pencil: DensitySettings['pencil']) => {
      const symbology = { kind: 'density' as const, settings: { ...settings, pencil } }
      const layer = { ...layerOf('readers-per-km2'), labels: null, symbology }
      const input = { map: { ...map, layers: [layer] }, view, window, datasets, toleranceMm: 0.1 }
      const paths = [...walk([composeMap({ ...input, fonts: createFontBook() })])].filter(
        (one) => one.type === 'path',
      )
      return {
        fills: paths.filter(({ fill }) => fill).length,
        strokes: paths.filter(({ strokes }) => strokes.length).length,
      }
    }
    const [flat, byHand] = [drawnBy(null), drawnBy(plainPencil())]
    expect(flat.fills - byHand.fills).toBe(6)
    expect(byHand.strokes).toBeGreaterThan(flat.strokes)
    const swatches = density.legend(plan, { ...settings, pencil: plainPencil() }, readers, null).items
    expect(swatches.every(({ swatch }) => swatch.shape === 'sample')).toBe(true)
  })

  it('kept within areas keeps all that lies in them', () => {
    const masked = { ...settings, mask: { datasetId: 'districts' } }
    const own = density.plan(masked, readers)
    expect(own.figures.at(-1)).toBe('12,000 in all under the surface')
    expect(density.needs(masked)).toEqual(['districts'])
  })
})

describe('surfaces with one scheme', () => {
  const member = (one: DensitySettings) => ({
    datasetId: 'readers',
    ...density.shared!.member(one),
  })
  const narrow = { ...settings, bandwidthKm: 9 }
  const shared = (one: DensitySettings, over: 'all' | 'each') => ({
    ...one,
    share: { id: 'both', over, members: [member(settings), member(narrow)] },
  })

  it('have breaks over all values, from one lowest value on, each with its own counts', () => {
    const [one, two] = [settings, narrow].map((own) => density.plan(shared(own, 'all'), readers))
    expect(one.classification?.breaks).toEqual(two.classification?.breaks)
    expect(one.least).toBe(two.least)
    expect(one.max).toBe(density.plan(narrow, readers).max)
    expect(one.classification?.counts).not.toEqual(two.classification?.counts)
    expect(one.pool?.values.length).toBeGreaterThan(one.sample.length)
    expect(one.classification?.counts.reduce((a, b) => a + b, 0)).toBe(one.sample.length)
  })

  it('or over their own, and need each other’s data', () => {
    const apart = [settings, narrow].map((own) => density.plan(shared(own, 'each'), readers))
    expect(apart[0].classification?.breaks).toEqual(plan.classification?.breaks)
    expect(apart[0].classification?.breaks).not.toEqual(apart[1].classification?.breaks)
    expect(density.needs(shared(settings, 'all'))).toContain('readers')
    expect(density.plan({ ...shared(settings, 'all'), share: null }, readers).pool).toBeNull()
  })

  it('are made ready together', () => {
    const fresh = { ...settings, bandwidthKm: 11.25 }
    const wanted = {
      ...settings,
      share: { id: 'both', over: 'all' as const, members: [member(settings), member(fresh)] },
    }
    const steps = density.shapes!.ready!(wanted, readers)
    if (!steps) throw new Error('One of them is not made yet.')
    drain(steps)
    expect(density.shapes!.ready!(wanted, readers)).toBeNull()
    expect(density.shapes!.ready!(fresh, readers)).toBeNull()
  })
})

describe('what takes long', () => {
  it('is made in pieces, once, and roughly first', () => {
    const layer = { ...layerOf('readers-per-km2'), id: 'again' }
    const symbology = {
      ...layer.symbology,
      settings: { ...layer.symbology.settings, bandwidthKm: 13.5 },
    } as Layer['symbology']
    const map = { ...folio.maps.find(({ id }) => id === 'gathered')!, layers: [{ ...layer, symbology }] }
    const view = { centre: [0, 0] as [number, number], scaleDenominator: 3e6 }
    const rough = roughMap(map, view, datasets)
    const coarse = rough?.layers[0].symbology.settings as DensitySettings
    expect(coarse.cellKm).toBeGreaterThan(4)
    const steps = mapSteps(map, view, datasets)
    if (!steps) throw new Error('There is nothing to do.')
    const told: number[] = []
    for (let step = steps.next(); !step.done; step = steps.next()) told.push(step.value)
    expect(told.length).toBeGreaterThan(3)
    expect([...told].sort((a, b) => a - b)).toEqual(told)
    expect(mapSteps(map, view, datasets)).toBeNull()
    expect(roughMap(map, view, datasets)).toBeNull()
  })

  it('of dots is told as it goes on', () => {
    const layer = { ...layerOf('readers-by-age'), id: 'again' }
    const symbology = {
      ...layer.symbology,
      settings: { ...layer.symbology.settings, seed: 77 },
    } as Layer['symbology']
    const steps = layerSteps({ ...layer, symbology }, prepared('districts'), plane)
    expect([...(steps ?? [])].length).toBeGreaterThan(0)
    expect(layerSteps({ ...layer, symbology }, prepared('districts'), plane)).toBeNull()
  })

  it('is pointed at once it is there', () => {
    const layer = layerOf('libraries-in-cells')
    const data = prepared('libraries')
    shapesOf(layer, data, planOf(layer, data), plane)
    const { coords } = data.dataset.geometry as { coords: Float64Array }
    const pointed = pointedAt(layer, data, [coords[0], coords[1]], plane)
    expect(pointed?.reading.detail).toMatch(/^class \d of \d$/)
    expect(pointed?.name).toMatch(/Library/)
    expect(pointedAt(layer, data, [0, 0], plane)).toBeNull()
  })
})

describe('lit lines', () => {
  it('are as wide as the cosine between the way downhill and the light (Tanaka 1950)', () => {
    expect(litWidth(315, 315)).toEqual({ share: 1, lit: true })
    expect(litWidth(135, 315).lit).toBe(false)
    expect(litWidth(135, 315).share).toBeCloseTo(1, 12)
    expect(litWidth(45, 315).share).toBeCloseTo(0, 12)
    expect(litWidth(0, 315).share).toBeCloseTo(Math.SQRT1_2, 12)
  })
})

describe('isolines of a raster', () => {
  const data = kindData(prepared('relief'))
  const own = { ...isolines.initial(data), cellKm: 3, unit: 'm' }
  const contours = isolines.plan(own, data)

  it('run at whole hundreds, the heavier ones at whole five hundreds', () => {
    expect(contours.levels.every((level) => level % 100 === 0)).toBe(true)
    expect(contours.levels.length).toBeGreaterThan(5)
    const { items } = isolines.legend(contours, own, data, null)
    expect(items.map(({ label }) => label)).toEqual(['every 100 m', 'every 500 m'])
    expect(words(isolines.sentence(own, data))).toBe('Relief as lines every 100 m.')
    expect(isolines.classings(own)).toEqual([])
  })

  it('lose their small details where they are smoothed first, not their run', () => {
    const relief = kindData(prepared('relief'))
    const own = { ...isolines.initial(relief), cellKm: 2 }
    const lengthOf = (smoothKm: number) => {
      const smoothed = { ...own, smoothKm }
      const made = drain(isolines.shapes!.make(isolines.plan(smoothed, relief), smoothed, relief, plane))
      return made.lines ? [...groundLengths(made.lines)].reduce((sum, m) => sum + m, 0) : 0
    }
    const [rough, smooth] = [lengthOf(0), lengthOf(12)]
    expect(smooth).toBeLessThan(0.9 * rough)
    expect(smooth).toBeGreaterThan(0.3 * rough)
    expect(isolines.shapes!.key(own)).not.toBe(isolines.shapes!.key({ ...own, smoothKm: 12 }))
  })

  it('too many of them are said', () => {
    const dense = { ...own, interval: 0.5 }
    expect(isolines.caution(isolines.plan(dense, data), dense, data)?.words).toContain('More than 200 lines')
  })

  it('lit ones stand on steps between the lines', () => {
    const lit = { ...own, form: 'shaded' as const }
    const made = drain(isolines.shapes!.make(contours, lit, data, plane)) as SurfaceShapes
    expect(made.bands && 'featureStarts' in made.bands && made.bands.featureStarts.length - 1).toBe(
      bandLevels(contours, lit).length,
    )
    expect(isolines.legend(contours, lit, data, null).items[1].label).toMatch(/^\d+ to \d+$/)
  })
})

describe('a surface over areas', () => {
  const data = kindData(prepared('districts'))
  const own = { ...interpolated.initial(data), field: 'population', cellKm: 2 } as InterpolatedSettings
  const surface = interpolated.plan(own, data)

  it('holds the total of all, and says which areas are smaller than a cell', () => {
    const inAll = surface.sample.reduce((sum, value, i) => sum + (value * surface.sizes[i]) / 1e6, 0)
    const column = data.dataset.fields.find(({ key }) => key === 'population')?.column
    const total = column?.kind === 'number' ? column.values.reduce((sum, n) => sum + (n > 0 ? n : 0), 0) : 0
    expect(Math.abs(inAll / total - 1)).toBeLessThan(0.03)
    expect(words(interpolated.sentence(own, data))).toContain('that keeps the figures of districts')
  })
})

describe('a surface through points', () => {
  const data = kindData(prepared('towns'))
  const own = {
    ...interpolated.initial(data),
    field: 'population',
    way: 'kriging',
    cellKm: 8,
  } as InterpolatedSettings

  it('compares the methods by what they miss, the best first', () => {
    const found = missesOf(own, data)
    expect(found.map(({ way }) => way).sort()).toEqual([
      'inverse-distance',
      'kriging',
      'natural-neighbours',
      'thin-plate',
    ])
    const misses = found.map(({ miss }) => miss).filter(Number.isFinite)
    expect([...misses].sort((a, b) => a - b)).toEqual(misses)
    expect(misses.length).toBeGreaterThan(2)
  })

  it('shows the variogram that is used, and one set by hand', () => {
    const view = variogramView(own, data)
    expect(view?.bins.length).toBeGreaterThan(5)
    expect(view?.used).toEqual(view?.fitted)
    const hand = { ...own, variogram: { nugget: 1, sill: 2, rangeKm: 30 } }
    expect(variogramView(hand, data)?.used).toEqual({ model: 'spherical', nugget: 1, sill: 2, range: 30_000 })
  })

  it('warns of totals, which have no value between places', () => {
    expect(interpolated.caution(interpolated.plan(own, data), own, data)?.words).toContain('between places')
  })
})

describe('a potential', () => {
  it('is highest where most live, and warns of ratios', () => {
    const data = kindData(prepared('districts'))
    const own = { ...potential.initial(data), field: 'population', spanKm: 15, cellKm: 10 }
    const made = potential.plan(own, data)
    expect(made.max).toBeGreaterThan(made.min * 3)
    expect(words(potential.sentence(own, data))).toContain('a half at 15 km')
    const income = { ...own, field: 'med_hh_income' }
    expect(
      potential.caution(
        made,
        { ...income, field: 'med_hh_income' },
        { ...data, fieldMeta: () => ({ label: 'Share', unit: '%', role: 'share' }) },
      )?.words,
    ).toContain('is a ratio')
  })
})
