import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { openDemo } from '../../demo/open'
import { kindIds } from '@/core/kinds/registry'
import { decode, drawPdf, drawSvg, worstTile } from './conformance/compare'
import { initialPrint, sheetFormats, type PrintSettings } from '@/core/print/settings'
import { pictureOf } from '@/core/sheet/parts/picture'
import { makePart } from '@/core/sheet/registry'
import { makeSheet } from '@/core/sheet/spec'
import { renderSheet } from './sheet'

const { folio, contents } = openDemo()
const [sheet] = folio.sheets
const folder = mkdtempSync(path.join(tmpdir(), 'keen-outputs-'))
afterAll(() => rmSync(folder, { recursive: true }))

const render = (
  format: PrintSettings['format'],
  { sheetId = sheet.id, ...settings }: Partial<PrintSettings> & { sheetId?: string } = {},
) =>
  renderSheet({
    folio,
    sheetId,
    contents: (id) => contents.get(id) ?? null,
    settings: { ...initialPrint, format, dpi: 150, ...settings },
    date: new Date('2026-01-31T12:00:00Z'),
  })

const pdf = path.join(folder, 'sheet.pdf')
const pdfBytes = await render('pdf')
writeFileSync(pdf, pdfBytes)
const tool = (command: string, ...args: string[]) =>
  execFileSync(command, args, { maxBuffer: 1 << 28 }).toString()
const qdf = tool('qpdf', '--qdf', '--object-streams=disable', pdf, '-')

describe('the PDF of the demo sheet', () => {
  it('passes qpdf and has exactly the page’s size', () => {
    expect(tool('qpdf', '--check', pdf)).toContain('No syntax or stream encoding errors found')
    const info = tool('pdfinfo', '-box', pdf)
    const [, width, height] = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(info) ?? []
    expect((Number(width) * 25.4) / 72).toBeCloseTo(297, 2)
    expect((Number(height) * 25.4) / 72).toBeCloseTo(210, 2)
    expect(info).toMatch(/Title:\s+A country that reads: Loans, A4/)
    expect(info).toMatch(/Author:\s+Keen Plot demo/)
  })

  it('embeds a subset of every font, with the characters behind the glyphs', () => {
    const fonts = tool('pdffonts', pdf).split('\n').slice(2).filter(Boolean)
    expect(fonts.length).toBeGreaterThanOrEqual(3)
    for (const line of fonts) expect(line).toMatch(/yes yes yes/)
  })

  it('has text that can be selected, word by word', () => {
    const text = tool('pdftotext', '-layout', pdf, '-')
    for (const words of [
      'A country that reads',
      'Loans per resident, 2025',
      '8.00 and over',
      '100 km',
      'Harrowmouth',
      'Lindmere Office of Statistics',
    ])
      expect(text).toContain(words)
  })

  it('holds no raster, and the districts as vector paths with at most three decimals', () => {
    expect(tool('pdfimages', '-list', pdf).trim().split('\n')).toHaveLength(2)
    expect(qdf.match(/ l$/gm)?.length).toBeGreaterThan(5000)
    expect(qdf).not.toMatch(/^\d+\.\d{4,} \d+\.\d+ [ml]$/m)
  })

  it('has a layer for each part and each map layer, nested', () => {
    const names = [
      ...qdf.matchAll(/\/Name \(([^)]*)\)[^>]*\/Type \/OCG|\/Type \/OCG[^>]*\/Name \(([^)]*)\)/g),
    ].map((m) => m[1] ?? m[2])
    for (const part of sheet.parts) expect(names).toContain(part.name)
    for (const layer of folio.maps[0].layers.filter((l) => l.visible))
      expect(names.filter((name) => name === layer.name)).toHaveLength(2)
    expect(qdf).toMatch(/\/Order \[/)
  })
})

describe('the SVG of the demo sheet', () => {
  for (const svgText of ['embedded', 'outlines'] as const) {
    it(`is valid XML in millimetres, with named groups and unique ids (text ${svgText})`, async () => {
      const svg = Buffer.from(await render('svg', { svgText })).toString()
      const file = path.join(folder, `${svgText}.svg`)
      writeFileSync(file, svg)
      tool('xmllint', '--noout', file)
      expect(svg).toMatch(/<svg[^>]* width="297mm" height="210mm" viewBox="0 0 297 210"/)
      const ids = [...svg.matchAll(/ id="([^"]+)"/g)].map((m) => m[1])
      expect(new Set(ids).size).toBe(ids.length)
      for (const id of ['Main-panel', 'Legend', 'Scale-bar', 'Title']) expect(ids).toContain(id)
      expect(ids.some((id) => id.includes('Loans-per-resident-Harrowmouth'))).toBe(true)
      expect(svg.includes('<text')).toBe(svgText === 'embedded')
      expect(svg.includes('@font-face')).toBe(svgText === 'embedded')
      expect(svg).not.toMatch(/https?:\/\/(?!www\.w3\.org)/)
    })
  }
})

describe('bitmaps', () => {
  it('have the size that the resolution asks for, and say which it is', async () => {
    const png = Buffer.from(await render('png', { dpi: 96 }))
    const { width, height, density } = await sharp(png).metadata()
    expect([width, height]).toEqual([Math.round((297 * 96) / 25.4), Math.round((210 * 96) / 25.4)])
    expect(density).toBe(96)
  })

  it('of too many pixels are refused before anything is drawn', async () => {
    await expect(render('png', { dpi: 2400 })).rejects.toThrow('Up to 2,034 dots per inch fit on this sheet')
  })
})

it('PDF, SVG and PNG of the demo sheet look alike at 150 dpi', async () => {
  const png = await decode(Buffer.from(await render('png')))
  const asPdf = await drawPdf(pdfBytes, png)
  const asSvg = await drawSvg(Buffer.from(await render('svg', { svgText: 'outlines' })).toString(), png)
  const differences = {
    pdf: worstTile(png, asPdf),
    svg: worstTile(png, asSvg),
    both: worstTile(asPdf, asSvg),
  }
  for (const [pair, { difference, x, y }] of Object.entries(differences))
    expect(difference, `${pair} at ${x}, ${y}`).toBeLessThan(0.12)
})

describe('PDF, SVG and bitmap look alike for every map kind', () => {
  for (const one of folio.sheets.slice(1))
    it(one.name, async () => {
      // Large pages at fewer dots, so that all are compared at about as many pixels.
      const options = { sheetId: one.id, dpi: Math.round(72 * Math.min(1, 297 / one.page.widthMm)) }
      const png = await decode(Buffer.from(await render('png', options)))
      const asPdf = await drawPdf(await render('pdf', options), png)
      const asSvg = await drawSvg(
        Buffer.from(await render('svg', { ...options, svgText: 'outlines' })).toString(),
        png,
      )
      for (const [name, other] of Object.entries({ PDF: asPdf, SVG: asSvg })) {
        const { difference, x, y } = worstTile(png, other)
        expect(difference, `${name} at ${x}, ${y}`).toBeLessThan(0.12)
      }
    })

  it('covers every kind that there is', () => {
    const shown = new Set(
      folio.sheets.flatMap((one) =>
        one.parts.flatMap((part) => (part.type === 'panel' ? [part.settings.mapId] : [])),
      ),
    )
    const kinds = new Set(
      folio.maps
        .filter(({ id }) => shown.has(id))
        .flatMap((map) => map.layers.filter(({ visible }) => visible).map(({ symbology }) => symbology.kind)),
    )
    expect([...kinds].sort()).toEqual([...kindIds].sort())
  })
})

it('every format of the list is written', async () => {
  for (const format of sheetFormats) expect((await render(format)).length).toBeGreaterThan(10_000)
})

describe('bitmaps', () => {
  it('have their dots per inch written into them, whatever the format', async () => {
    for (const format of ['png', 'jpeg', 'tiff'] as const) {
      const about = await sharp(await render(format, { dpi: 96, quality: 80 })).metadata()
      expect([about.format, about.density, about.width]).toEqual([format, 96, Math.round((297 / 25.4) * 96)])
    }
    const [coarse, fine] = [await render('jpeg', { quality: 30 }), await render('jpeg', { quality: 95 })]
    expect(coarse.length).toBeLessThan(fine.length / 2)
  })
})

describe('parts alone', () => {
  it('stand on a page of their own size, with nothing else on it', async () => {
    const svg = Buffer.from(
      await render('svg', { parts: ['legend', 'title'], svgText: 'embedded' }),
    ).toString()
    expect(svg).toContain('Loans per resident')
    expect(svg).not.toContain('Scale bar')
    const width = Number(/width="([\d.]+)mm"/.exec(svg)?.[1])
    expect(width).toBeGreaterThan(190)
    expect(width).toBeLessThan(210)
    await expect(render('svg', { parts: ['nowhere'] })).rejects.toThrow('None of the parts')
  })
})

describe('a picture that is used more than once', () => {
  it('is in PDF and SVG once', async () => {
    const bytes = await sharp({
      create: {
        width: 200,
        height: 200,
        channels: 3,
        background: '#5b8c5a',
        noise: { type: 'gaussian', mean: 120, sigma: 60 },
      },
    })
      .png()
      .toBuffer()
    const entry = {
      id: '1'.repeat(32),
      name: 'Leaf',
      type: 'image/png' as const,
      widthPx: 200,
      heightPx: 200,
    }
    const part = (id: string, x: number) =>
      makePart('picture', { id, name: id, box: { x, y: 10, width: 30, height: 30 } }, pictureOf(entry))
    const own = makeSheet({
      ...sheet,
      id: 'pictures',
      parts: [part('a', 10), part('b', 60), part('c', 110)],
    })
    const withPicture = { ...folio, pictures: [entry], sheets: [own] }
    const make = async (format: 'pdf' | 'svg') =>
      Buffer.from(
        await renderSheet({
          folio: withPicture,
          sheetId: 'pictures',
          contents: () => null,
          pictures: () => ({ kind: 'bitmap', mime: 'image/png', bytes }),
          settings: { ...initialPrint, format },
          date: new Date(0),
        }),
      )
    const svg = (await make('svg')).toString()
    expect(svg.match(/<image /g)).toHaveLength(1)
    expect(svg.match(/<use /g)).toHaveLength(3)
    const file = path.join(folder, 'pictures.pdf')
    writeFileSync(file, await make('pdf'))
    const listed = tool('pdfimages', '-list', file)
    const objects = listed
      .split('\n')
      .slice(2)
      .filter(Boolean)
      .map((line) => line.trim().split(/\s+/)[10])
    expect(objects).toHaveLength(3)
    expect(new Set(objects).size).toBe(1)
  })
})
