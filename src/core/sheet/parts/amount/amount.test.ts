import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../../demo/open'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { partsAtPlaces } from '@/core/proof/checks/parts-at-places'
import { amountsOneScale } from '@/core/proof/checks/amounts-one-scale'
import { trace } from '@/core/scene/outline'
import { walk, type Path, type Text } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { composeSheet, effectiveBox, sheetContext, sheetFonts } from '../../compose-sheet'
import { placeOnPage } from '../../place-on-page'
import { makePart, type SettingsOf } from '../../registry'
import { inStyle } from '../../type-styles'
import type { PanelSettings } from '../panel/spec'
import { amountProblem, amountsOf, figureSize, layOutAmount, leaderTo } from './draw'
import { amountPlace, valuesOfField } from './for-each'
import { amountForms } from './spec'

const { folio, datasets } = openDemo()
const settings: SettingsOf<'amount'> = {
  datasetId: 'districts',
  parts: [{ field: 'lib_loans_2025', colour: '#2f6f9f' }],
  of: null,
  form: 'ring',
  perMm2: 20_000,
  hole: 0.6,
  widthMm: 8,
  lineColour: '#ffffff',
  lineMm: 0,
  title: 'Loans',
  values: true,
  label: inStyle('caption'),
  place: null,
}
const box = { x: 30, y: 40, width: 20, height: 20 }
const sheetOf = (...several: SettingsOf<'amount'>[]) => ({
  ...folio.sheets[0],
  parts: several.map((one, i) => makePart('amount', { id: `a${i}`, name: `Amount ${i}`, box }, one)),
})
const contextOf = (sheet: ReturnType<typeof sheetOf>) =>
  sheetContext({
    sheet,
    maps: folio.maps,
    typeStyles: folio.typeStyles,
    datasets,
    fonts: fontBookOf(sheetFonts(sheet, folio.maps, folio.typeStyles)),
    folioName: '',
    author: '',
    date: new Date(0),
  })
const context = contextOf(sheetOf(settings))
const loans = numbersOf(fieldOf(datasets.get('districts')!.dataset, 'lib_loans_2025')!)
const total = loans.reduce((sum, value) => sum + (value > 0 ? value : 0), 0)

/** The area of an outline, by the shoelace formula over its subpaths. */
function areaOf({ outline }: Path): number {
  if (outline.kind === 'circle') return Math.PI * outline.r ** 2
  let [sum, sx, sy, px, py] = [0, 0, 0, 0, 0]
  trace(outline, {
    moveTo: (x, y) => ([sx, sy, px, py] = [x, y, x, y]),
    lineTo(x, y) {
      sum += px * y - x * py
      ;[px, py] = [x, y]
    },
    bezierCurveTo: () => undefined,
    closePath: () => (sum += px * sy - sx * py),
  })
  return Math.abs(sum) / 2
}
const drawn = (change: Partial<typeof settings>) => {
  const laid = layOutAmount({ ...settings, ...change }, box, context)
  const nodes = [...walk(laid.nodes)]
  return {
    laid,
    paths: nodes.filter((node): node is Path => node.type === 'path'),
    texts: nodes.filter((node): node is Text => node.type === 'text'),
  }
}

describe('an amount on a sheet', () => {
  it('has the area that it stands for, whatever its form', () => {
    for (const form of amountForms)
      for (const lineMm of [0, 0.5]) {
        const { paths } = drawn({ form, lineMm })
        expect(paths).toHaveLength(1)
        expect(Math.abs(areaOf(paths[0]) / (total / 20_000) - 1)).toBeLessThan(1e-4)
      }
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 1e9, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        fc.constantFrom(...amountForms),
        fc.double({ min: 0, max: 0.95, noNaN: true }),
        (amount, perMm2, form, hole) => {
          const { width, height } = figureSize({ form, perMm2, hole, widthMm: 7 }, amount)
          const open = form === 'ring' ? hole : 0
          const mm2 =
            form === 'square' || form === 'bar'
              ? width * height
              : (Math.PI * width ** 2 * (1 - open ** 2)) / 4
          expect(Math.abs(mm2 / (amount / perMm2) - 1)).toBeLessThan(1e-9)
        },
      ),
    )
  })
  it('is divided among its parts in proportion', () => {
    const fields = ['members_under_18', 'members_18_to_39', 'members_40_to_64', 'members_65_and_over']
    const parts = fields.map((field, i) => ({ field, colour: `#33669${i}` }))
    const sums = amountsOf({ ...settings, parts }, datasets.get('districts')!).sums
    for (const form of amountForms) {
      const { paths } = drawn({ form, parts, perMm2: 1000 })
      paths.forEach((path, i) => expect(Math.abs(areaOf(path) / (sums[i] / 1000) - 1)).toBeLessThan(2e-4))
    }
  })
  it('sums up the rows that are asked for, and says what has no area', () => {
    const district = datasets.get('districts')!
    const of = { field: 'province', value: 'Nowhere' }
    expect(amountsOf({ ...settings, of }, district)).toEqual({ sums: [0], total: 0, rows: 0, without: 0 })
    const province = fieldOf(district.dataset, 'province')!
    if (province.kind !== 'text') throw new Error('Provinces are text.')
    const all = province.dictionary.map(
      (value) => amountsOf({ ...settings, of: { field: 'province', value } }, district).total,
    )
    expect(all.reduce((sum, value) => sum + value, 0)).toBe(total)
    expect(amountsOf(settings, district).without).toBe(loans.filter((value) => !(value > 0)).length)
    expect(amountProblem({ ...settings, parts: [{ field: 'name', colour: '#000000' }] }, district)).toMatch(
      /no field of numbers/,
    )
  })
  it('has its figure within a ring that has room, and beneath it otherwise', () => {
    const large = drawn({ perMm2: 1000 })
    const small = drawn({ perMm2: 200_000 })
    const figureAt = ({ texts, laid }: typeof large) =>
      texts.find(({ text }) => /loans$/.test(text))!.y - box.y < laid.width / 1.5
    expect(figureAt(large)).toBe(true)
    expect(small.texts.map(({ text }) => text)).toEqual(['Loans', expect.stringMatching(/loans$/)])
    for (const { y } of small.texts) expect(y).toBeLessThan(box.y + small.laid.height)
    expect(drawn({ values: false, title: '' }).texts).toEqual([])
  })
  it('stays at its place on a map when the panel moves, and says where it has none', () => {
    const [first] = folio.sheets
    const panel = first.parts.find(({ type }) => type === 'panel')!
    const district = datasets.get('districts')!
    const at = amountPlace(settings, district)!
    const sheetAt = (
      change: Partial<PanelSettings['view']>,
      moved: Partial<typeof box>,
      place: [number, number],
    ) => {
      const view = { ...(panel.settings as PanelSettings).view, ...change }
      const own = makePart(
        'amount',
        { id: 'a', name: 'Amount', box },
        {
          ...settings,
          place: { panelId: panel.id, place, asOf: [100, 80], line: true },
        },
      )
      const seen = { ...panel, settings: { ...(panel.settings as PanelSettings), view } } as typeof panel
      return { ...first, parts: [{ ...seen, box: { ...panel.box, ...moved } } as typeof panel, own] }
    }
    const frames = [
      sheetAt({}, {}, at),
      sheetAt({}, { x: panel.box.x + 7, y: panel.box.y - 3 }, at),
      sheetAt({ scaleDenominator: 3_000_000 }, {}, at),
    ].map((sheet) => {
      const own = contextOf(sheet as ReturnType<typeof sheetOf>)
      const now = placeOnPage(panel.id, at, own)!
      const { x, y } = effectiveBox(sheet.parts[1], own)
      // However the panel lies, it keeps its distance to the place.
      expect([x - now[0], y - now[1]]).toEqual([
        expect.closeTo(box.x - 100, 9),
        expect.closeTo(box.y - 80, 9),
      ])
      const scene = composeSheet(
        { sheet, maps: folio.maps, datasets, fonts: own.fonts, folioName: '', author: '', date: new Date(0) },
        own,
      )
      const line = [...walk(scene.children)].find(
        (node) => node.type === 'group' && node.name === 'Amount line',
      )
      expect(line).toBeDefined()
      return { x, y }
    })
    expect(frames[1].x - frames[0].x).toBeCloseTo(7, 9)
    expect(frames[1].y - frames[0].y).toBeCloseTo(-3, 9)
    const astray = sheetAt({}, {}, [100, -40])
    const lost = contextOf(astray as ReturnType<typeof sheetOf>)
    expect(effectiveBox(astray.parts[1], lost)).toMatchObject({ x: box.x, y: box.y })
    const finding = partsAtPlaces.run({ sheet: astray, context: lost, layers: [] })
    expect(finding).toMatchObject({ ok: false, target: { partId: 'a' } })
    expect(finding?.detail).toContain('it stands where the place lay before')
  })
  it('has a line to its place from its edge, and none where it lies on it', () => {
    const figure = { x: 10, y: 10, width: 20, height: 20 }
    const of = (form: (typeof amountForms)[number], to: [number, number]) => {
      const [line] = leaderTo({ form, label: settings.label }, figure, to) as Path[]
      if (!line) return null
      const points: number[] = []
      trace(line.outline, {
        moveTo: (x, y) => points.push(x, y),
        lineTo: (x, y) => points.push(x, y),
        bezierCurveTo: () => undefined,
        closePath: () => undefined,
      })
      return points
    }
    expect(of('disc', [50, 20])).toEqual([30, 20, 50, 20])
    expect(of('square', [60, 60])?.map((mm) => Math.round(mm))).toEqual([30, 30, 60, 60])
    expect(of('ring', [25, 20])).toBe(null)
    const provinces = valuesOfField('province', datasets.get('districts')!)
    expect(provinces.length).toBeGreaterThan(3)
    const places = provinces.map((value) =>
      amountPlace({ of: { field: 'province', value } }, datasets.get('districts')!),
    )
    expect(new Set(places.map((place) => place?.map((d) => d.toFixed(2)).join())).size).toBe(provinces.length)
    expect(amountPlace({ of: null }, datasets.get('subjects')!)).toBe(null)
  })
  it('is found by the proof where another one has another scale', () => {
    const run = (...several: (typeof settings)[]) => {
      const sheet = sheetOf(...several)
      return amountsOneScale.run({ sheet, context: contextOf(sheet), layers: [] })
    }
    expect(run(settings)).toBeNull()
    expect(run(settings, { ...settings, form: 'bar' })).toMatchObject({ ok: true })
    expect(run(settings, { ...settings, perMm2: 5 })).toMatchObject({ ok: false })
    // Persons are not compared with loans.
    const people = { ...settings, perMm2: 5, parts: [{ field: 'population', colour: '#000000' }] }
    expect(run(settings, people)).toBeNull()
  })
})
