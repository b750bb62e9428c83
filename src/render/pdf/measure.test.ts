import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { toMetres } from '@/core/geo/paper'
import { initialPrint, type PrintSettings } from '@/core/print/settings'
import { sheetContext } from '@/core/sheet/compose-sheet'
import { toPage, type Point } from '@/core/sheet/frame'
import { georeferenceOf, georeferences, movedGeoreference, unplacedWords } from '@/core/sheet/georeference'
import { panelsOf, type PanelPart } from '@/core/sheet/panel-view'
import type { Sheet } from '@/core/sheet/spec'
import { fontBookOf } from '../font-files'
import { renderSheet } from '../sheet'

const { folio, contents, datasets } = openDemo()
const folder = mkdtempSync(path.join(tmpdir(), 'keen-measure-'))
afterAll(() => rmSync(folder, { recursive: true }))

const sheetOf = (id: string): Sheet => folio.sheets.find((one) => one.id === id)!
const contextOf = (sheet: Sheet, maps = folio.maps) =>
  sheetContext({
    sheet,
    maps,
    datasets,
    fonts: fontBookOf([]),
    folioName: '',
    author: '',
    date: new Date(0),
  })

async function pdfOf(sheet: Sheet, more: Partial<PrintSettings> = {}, maps = folio.maps): Promise<string> {
  const remarks: string[] = []
  const bytes = await renderSheet({
    folio: { ...folio, maps, sheets: [sheet] },
    sheetId: sheet.id,
    contents: (id) => contents.get(id) ?? null,
    settings: { ...initialPrint, ...more },
    date: new Date(0),
    remark: (words) => remarks.push(words),
  })
  const file = path.join(folder, `${sheet.id}-${Math.random().toString(36).slice(2)}.pdf`)
  writeFileSync(file, bytes)
  return file
}

type Info = { geoTransform?: number[]; coordinateSystem?: { wkt: string }; size: [number, number] }
const infoOf = (file: string): Info =>
  JSON.parse(execFileSync('gdalinfo', ['-json', file], { maxBuffer: 1 << 26 }).toString()) as Info

/** Longitude and latitude of places of a page, mm, as another program reads them from the file. */
function readBack(file: string, { page }: Sheet, places: Point[], larger = 0): Point[] {
  const { geoTransform: g, coordinateSystem, size } = infoOf(file)
  if (!g || !coordinateSystem) throw new Error('The file says nothing of the ground.')
  const [w, h] = [page.widthMm + 2 * larger, page.heightMm + 2 * larger]
  const input = places
    .map(([x, y]) => [((x + larger) / w) * size[0], ((y + larger) / h) * size[1]])
    .map(([c, r]) => `${g[0] + c * g[1] + r * g[2]} ${g[3] + c * g[4] + r * g[5]}`)
    .join('\n')
  return execFileSync(
    'gdaltransform',
    ['-s_srs', coordinateSystem.wkt, '-t_srs', 'EPSG:4326', '-output_xy'],
    { input },
  )
    .toString()
    .trim()
    .split('\n')
    .map((line) => line.split(' ').map(Number).reverse() as Point)
    .map(([a, b]) => [b, a])
}

/** How far, mm, places of a panel are from where the file puts them. */
async function offBy(sheet: Sheet, panelId: string, more: Partial<PrintSettings> = {}): Promise<number[]> {
  const panel = contextOf(sheet).panel(panelId)!
  const { window, to, projection, frame } = panel
  const inside: Point[] = [0.1, 0.5, 0.9].flatMap((u) =>
    [0.15, 0.55, 0.85].map((v): Point => [window.x + u * window.width, window.y + v * window.height]),
  )
  const file = await pdfOf(sheet, more)
  const read = readBack(
    file,
    sheet,
    inside.map((place) => toPage(frame, place)),
    more.bleed ? sheet.bleedMm : 0,
  )
  return read.map(([lon, lat], i) => {
    const [x, y] = projection.project(lon, lat)
    const [ex, ey] = toMetres(to, ...inside[i])
    return Math.hypot(x - ex, y - ey) * to.mmPerMetre
  })
}

/** A sheet with one panel alone, so that it is the one that is read. */
const alone = (panel: PanelPart, more: Partial<Sheet> = {}): Sheet => ({
  ...sheetOf('loans-a4'),
  id: 'alone',
  parts: [panel],
  groups: [],
  ...more,
})
const [main] = panelsOf(sheetOf('loans-a4'))

describe('maps of a PDF on the ground', () => {
  it('lie where they are, to a tenth of a millimetre', async () => {
    for (const mm of await offBy(alone(main), main.id)) expect(mm).toBeLessThan(0.1)
  })

  it('also when the map is turned in its panel, and the panel on the page, and there is a bleed', async () => {
    const turned: PanelPart = {
      ...main,
      rotationDeg: -23,
      box: { x: 60, y: 50, width: 120, height: 90 },
      settings: { ...main.settings, view: { ...main.settings.view, turnDeg: 41 } },
    }
    const sheet = alone(turned, { bleedMm: 5 })
    for (const mm of await offBy(sheet, main.id)) expect(mm).toBeLessThan(0.1)
    for (const mm of await offBy(sheet, main.id, { bleed: true })) expect(mm).toBeLessThan(0.1)
  })

  it('each have a viewport of their own, and none where that is not wanted', async () => {
    const count = async (georeference: boolean) => {
      const file = await pdfOf(sheetOf('three-roads'), { georeference })
      const plain = execFileSync('qpdf', ['--qdf', '--object-streams=disable', file, '-'], {
        maxBuffer: 1 << 28,
      })
      return plain.toString('latin1').match(/\/Subtype \/GEO/g)?.length ?? 0
    }
    expect(await count(true)).toBe(4)
    expect(await count(false)).toBe(0)
  })

  it('are left out where no other program could follow, and that is said', () => {
    const maps = folio.maps.map((map) => ({
      ...map,
      projection: { ...map.projection, id: 'gnomonic' as const },
    }))
    const { panels } = contextOf(alone(main), maps)
    expect(georeferenceOf(panels[0])).toBeNull()
    expect(georeferences(panels)).toEqual({ placed: [], unplaced: [main.name] })
    expect(unplacedWords([main.name])).toContain(`“${main.name}” is left out`)
    expect(unplacedWords(['A', 'B'])).toContain('are left out')
    expect(unplacedWords([])).toBe('')
  })

  it('have places inside the page of a world that ends within the panel', () => {
    const world = contextOf(sheetOf('world-a4')).panels[0]
    const found = georeferenceOf(world)
    expect(found?.places.length).toBe(4)
    for (const { lon, lat } of found?.places ?? []) {
      expect(Math.abs(lon)).toBeLessThanOrEqual(180)
      expect(Math.abs(lat)).toBeLessThanOrEqual(90)
    }
  })

  it('move along when a part is exported alone', async () => {
    const found = georeferenceOf(contextOf(alone(main)).panels[0])!
    const moved = movedGeoreference(found, -10, 5)
    expect(moved.box).toEqual({ ...found.box, x: found.box.x - 10, y: found.box.y + 5 })
    expect(moved.places[0].page).toEqual([found.places[0].page[0] - 10, found.places[0].page[1] + 5])
    const file = await pdfOf(sheetOf('loans-a4'), { parts: [main.id] })
    const own = { ...sheetOf('loans-a4'), page: { widthMm: main.box.width, heightMm: main.box.height } }
    const panel = contextOf(sheetOf('loans-a4')).panel(main.id)!
    const [read] = readBack(file, own, [[main.box.width / 2, main.box.height / 2]])
    expect(read[0]).toBeCloseTo(panel.view.centre[0], 3)
    expect(read[1]).toBeCloseTo(panel.view.centre[1], 3)
  })
})

describe('the bleed of a PDF', () => {
  it('makes the page larger, says where it is cut, and has the colour of the paper', async () => {
    const sheet = alone(main, { bleedMm: 4, background: '#336699' })
    const boxes = execFileSync('pdfinfo', ['-box', await pdfOf(sheet, { bleed: true })]).toString()
    const box = (name: string) =>
      new RegExp(`${name}:\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)`)
        .exec(boxes)!
        .slice(1)
        .map((n) => (Number(n) * 25.4) / 72)
    box('TrimBox').forEach((mm, i) => expect(mm).toBeCloseTo([4, 4, 301, 214][i], 1))
    box('BleedBox').forEach((mm, i) => expect(mm).toBeCloseTo([0, 0, 305, 218][i], 1))
    const plain = execFileSync('pdfinfo', ['-box', await pdfOf(sheet)]).toString()
    expect(plain).toMatch(/Page size:\s+841\.89 x 595\.276/)
  })
})
