import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { square } from '@/core/geo/geo-testing'
import type { Layer } from '@/core/map/spec'
import { styleOf } from '@/core/map/style'
import { buildInPieces } from '../../scripts/build.mjs'
import { afterAll, describe, expect, it } from 'vitest'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-cli-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** The command line as it is built: reading its sources one by one takes longer than what most commands do. */
await buildInPieces('src/cli/main.ts', 'dist/keen-test')
const bundle = 'dist/keen-test/main.mjs'

const ran = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, args, { encoding: 'utf8' })
  return {
    status,
    out: stdout.trim().split('\n').filter(Boolean),
    err: stderr.trim().split('\n').filter(Boolean),
  }
}
const keen = (...args: string[]) => ran(bundle, ...args)
const at = (name: string) => path.join(folder, name)
const table = at('table.csv')
writeFileSync(table, 'code,loans,name\na,1,x\nb,2,y\nc,9,z\nd,10,w\ne,,v\n')

describe('keen render', () => {
  it('writes the demo in one line, without a server', () => {
    // As it is called by hand.
    const { status, out, err } = ran(
      'scripts/keen.mjs',
      'render',
      'demo',
      '--format',
      'svg',
      '--out',
      at('demo.svg'),
    )
    expect({ status, err }).toEqual({ status: 0, err: [] })
    expect(out).toEqual([expect.stringMatching(/demo\.svg: “Loans, A4” as SVG, 297 × 210 mm, \d+ kB$/)])
    expect(readFileSync(at('demo.svg'), 'utf8')).toContain('A country that reads')
  })

  it('writes the same file, to the byte, in two processes that know nothing of each other', () => {
    for (const format of ['pdf', 'svg']) {
      const files = ['one', 'two'].map((name) => at(`${name}.${format}`))
      for (const [i, out] of files.entries()) {
        const args = [
          'render',
          'demo',
          '--format',
          format,
          '--dpi',
          '60',
          '--date',
          '2031-05-04',
          '--out',
          out,
        ]
        // Another order of hashing and of collecting must not show.
        const { status, err } = ran(`--random-seed=${i + 1}`, `--hash-seed=${i + 1}`, bundle, ...args)
        expect({ status, err }).toEqual({ status: 0, err: [] })
      }
      const [one, two] = files.map((file) => readFileSync(file))
      expect(one.equals(two), format).toBe(true)
      expect(one.length).toBeGreaterThan(10_000)
    }
  })

  it('starts in well under a second, once its bundle is there', () => {
    ran('scripts/keen.mjs', '--help')
    const times = Array.from({ length: 5 }, () => {
      const start = performance.now()
      const { status } = ran('scripts/keen.mjs', 'project', '--projection', 'equal-earth', '--', '10', '20')
      expect(status).toBe(0)
      return performance.now() - start
    })
    // A third of a second on a quiet machine; the fastest of five, since others may be at work beside it.
    expect(Math.min(...times)).toBeLessThan(1500)
  })

  it('fails with one line that says why', () => {
    const fails: [string[], string | RegExp][] = [
      [
        ['render', 'demo', '--sheet', 'Nowhere', '--format', 'pdf', '--out', at('x.pdf')],
        'There is no sheet “Nowhere”. There are: Loans, A4.',
      ],
      [
        ['render', at('none.keen.json'), '--format', 'pdf', '--out', at('x.pdf')],
        /There is no file .*none\.keen\.json/,
      ],
      [['render', table, '--format', 'pdf', '--out', at('x.pdf')], 'not complete JSON'],
      [['render', 'demo', '--format', 'docx', '--out', at('x')], /Allowed choices are pdf, svg, png/],
      [
        ['render', 'demo', '--format', 'png', '--dpi', '5', '--out', at('x')],
        'It takes a whole number from 20 to 2400.',
      ],
      [['render', 'demo', '--format', 'svg', '--out', at('no/folder/x.svg')], 'its folder does not exist'],
      [['print'], /unknown command/],
      [
        ['render', 'demo', '--format', 'svg', '--date', '4 May', '--out', at('x')],
        /‘4 May’ is not a day such as 2031-05-04/,
      ],
    ]
    for (const [args, says] of fails) {
      const { status, out, err } = keen(...args)
      expect(status, args.join(' ')).toBe(1)
      expect(out).toEqual([])
      expect(err).toEqual([expect.stringMatching(says)])
    }
  })
})

describe('keen import', () => {
  it('says what was mended while reading, and what every step remarks', () => {
    const bow = [
      [
        [0, 0],
        [2, 2],
        [2, 0],
        [0, 2],
        [0, 0],
      ],
    ]
    writeFileSync(
      at('bow.geojson'),
      JSON.stringify({
        type: 'FeatureCollection',
        features: [
          {
            type: 'Feature',
            properties: { name: 'Bow', people: 5 },
            geometry: { type: 'Polygon', coordinates: bow },
          },
          { type: 'Feature', properties: { name: 'None', people: 6 }, geometry: null },
        ],
      }),
    )
    const { status, out } = keen('import', at('bow.geojson'), '--out', at('bow.gpkg'))
    expect(status).toBe(0)
    expect(out.join('\n')).toMatch(/1 × untangled a ring that crosses itself \(row 1\)/)
    expect(out.join('\n')).toMatch(/1 × has no shape \(row 2\)/)
  })

  it('refuses a reference system for cells, which stay where they lie', () => {
    const cells = path.join(import.meta.dirname, '../../demo/data/land-cover.tif')
    const { status, err } = keen('import', cells, '--crs', 'EPSG:3035', '--out', at('x.tif'))
    expect(status).toBe(1)
    expect(err).toEqual([
      expect.stringContaining('Cells are saved in the reference system that they came in'),
    ])
  })
})

describe('keen draft', () => {
  const wards = at('wards.geojson')
  writeFileSync(
    wards,
    JSON.stringify({
      type: 'FeatureCollection',
      features: Array.from({ length: 12 }, (_, i) => ({
        type: 'Feature',
        properties: { code: `0${10 + i}`, ward: `Ward ${i}` },
        geometry: square(10 + (i % 4), 40 + Math.floor(i / 4)),
      })),
    }),
  )
  const figures = at('figures.csv')
  const lines = Array.from({ length: 12 }, (_, i) => `${10 + i},${900 + 311 * i},${3 + ((i * 5) % 7)}`)
  writeFileSync(figures, ['ward_no,population,mills', ...lines].join('\n'))

  it('joins by keys that lost their zeros and writes the first page and the folio', () => {
    const [page, saved] = [at('draft.svg'), at('draft.keen.json')]
    const { status, out, err } = keen('draft', wards, figures, '--out', page, '--folio', saved)
    expect({ status, err }).toEqual({ status: 0, err: ['Figures: 12 of 12 rows match.'] })
    expect(out[0]).toMatch(/^Mills per 1,000 /)
    expect(readFileSync(page, 'utf8')).toContain('Mills per 1,000')
    const again = keen('render', saved, '--format', 'svg', '--out', at('again.svg'))
    expect(again.status).toBe(0)
    expect(readFileSync(at('again.svg'), 'utf8')).toContain('Mills per 1,000')
  })

  it('lists what files can become, and says what is wrong', () => {
    const list = keen('draft', wards, figures, '--list')
    const offers = JSON.parse(list.out.join('')) as { kind: string; because: string }[]
    expect(offers.length).toBeGreaterThan(3)
    expect(offers.every(({ because }) => because.length > 10)).toBe(true)
    const first = (...args: string[]) => keen('draft', ...args).err.at(-1)
    expect(first(wards)).toBe('keen: Say what to make: --out, --folio or --list.')
    expect(first(wards, '--out', at('x.doc'))).toBe(
      'keen: x.doc ends neither in .pdf, nor in .svg, nor in .png.',
    )
    expect(first(wards, figures, '--take', '40', '--out', at('x.pdf'))).toMatch(/There is no proposal 40/)
    expect(first(figures, '--out', at('x.pdf'))).toBe(
      'keen: Nothing in these files has a place that could be drawn.',
    )
  })
})

describe('keen cartogram', () => {
  // Eight fields in two rows, with a region each.
  const areas = at('fields.geojson')
  writeFileSync(
    areas,
    JSON.stringify({
      type: 'FeatureCollection',
      features: Array.from({ length: 8 }, (_, i) => ({
        type: 'Feature',
        properties: {
          name: `F${i}`,
          side: i % 4 < 2 ? 'west' : 'east',
          people: [40, 10, 20, 30, 25, 15, 1, 59][i],
        },
        geometry: square(10 + (i % 4), 40 + Math.floor(i / 4)),
      })),
    }),
  )
  const made = (...args: string[]) => keen('cartogram', areas, '--field', 'people', ...args)

  it('writes blocks that add up, and says how good they are', () => {
    const { status, out, err } = made('--value', '5', '--region', 'side', '--out', at('blocks.geojson'))
    expect(status).toBe(0)
    // What stands with another is said.
    expect(err).toEqual([expect.stringMatching(/^1 of 8 areas are too small for blocks of their own/)])
    expect(JSON.parse(out.join(''))).toMatchObject({
      method: 'blocks',
      blocks: 40,
      wanted: 40,
      exact: true,
      torn: 0,
    })
    const { features } = JSON.parse(readFileSync(at('blocks.geojson'), 'utf8')) as {
      features: { properties: { name: string; blocks: number | null; group: string }; geometry: unknown }[]
    }
    expect(features.reduce((sum, { properties }) => sum + (properties.blocks ?? 0), 0)).toBe(40)
    for (const { properties, geometry } of features)
      expect(properties.blocks === null).toBe(geometry === null)
    expect(features.filter(({ properties }) => properties.group === 'F2 and F6')).toHaveLength(2)
    expect(features.filter(({ geometry }) => geometry).map(({ properties }) => properties.name)).toContain(
      'F2 and F6',
    )
  })
  it('writes every other form, as SVG as well', () => {
    for (const method of ['continuous', 'circles', 'tiles', 'own-shapes']) {
      const { status, out } = made('--method', method, '--out', at(`${method}.svg`))
      expect(status, method).toBe(0)
      expect(JSON.parse(out.join(''))).toMatchObject({ method, borders: 10 })
      expect(readFileSync(at(`${method}.svg`), 'utf8')).toContain('<path')
    }
  })
  it('says in one line what cannot be done', () => {
    for (const [args, says] of [
      [['--out', at('x.pdf')], 'ends neither in .geojson nor in .svg.'],
      [['--value', '0', '--out', at('x.svg')], /‘0’ is no number above zero/],
      [['--region', 'nowhere', '--out', at('x.svg')], 'has no field “nowhere”'],
    ] as const) {
      const { status, err } = made(...args)
      expect(status).toBe(1)
      expect(err).toEqual([expect.stringMatching(says)])
    }
    const { err } = keen('cartogram', areas, '--field', 'name', '--out', at('x.svg'))
    expect(err).toEqual([expect.stringContaining('holds text, not numbers')])
  })
})

it('keen alone says what there is, in whole sentences', () => {
  const { status, out, err } = keen()
  expect([status, err]).toEqual([0, []])
  expect(out[0]).toContain('Usage: keen')
  expect(out.some((line) => line.includes('draw a sheet of a folio into a file'))).toBe(true)
})

describe('files of the system', () => {
  const render = (out: string, folio = 'demo') => keen('render', folio, '--format', 'svg', '--out', out)

  it('are said in words where nothing can be written, and what was there stays', () => {
    expect(render(folder).err).toEqual([`keen: ${folder} is a folder. Say a file.`])
    expect(render(at('table.csv/map.svg')).err[0]).toContain('is no folder')
    expect(render(at('nowhere/map.svg')).err[0]).toContain('its folder does not exist')
    expect(render(at(`${'x'.repeat(300)}.svg`)).err[0]).toContain('is too long for this disk')
    expect(render('/dev/full').err).toEqual(['keen: The disk is full: /dev/full was not written.'])
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([])
  })

  it('are said in words where nothing can be read', () => {
    expect(render(at('a.svg'), folder).err).toEqual([`keen: ${folder} is a folder. Say a file.`])
    expect(render(at('a.svg'), at('none.keen.json')).err[0]).toContain('There is no file')
  })

  it('that are folio files hold no more than a shelf takes', () => {
    const demo = readFileSync('demo/a-country-that-reads.keen.json', 'utf8')
    const { folio, ...file } = JSON.parse(demo) as { folio: { maps: { layers: Layer[] }[] } }
    const [style] = folio.maps
      .flatMap(({ layers }) => layers.map(styleOf))
      .sort((a, b) => JSON.stringify(b).length - JSON.stringify(a).length)
    const styles = (count: number) =>
      Array.from({ length: count }, (_, i) => ({ ...style, id: `${i}`, name: 'x'.repeat(1800) }))
    writeFileSync(
      at('long.keen.json'),
      JSON.stringify({ ...file, folio: { ...folio, styles: styles(9999) } }),
    )
    expect(render(at('a.svg'), at('long.keen.json')).err[0]).toMatch(
      /This folio is too large: \d\d MB without/,
    )
    const many = { ...folio, styles: styles(10_001) }
    writeFileSync(at('many.keen.json'), JSON.stringify({ ...file, folio: many }))
    expect(render(at('a.svg'), at('many.keen.json')).err[0]).toContain(
      'at styles, there are more than 10,000',
    )
  })
})

it('keen sheets lists the sheets of a folio as JSON', () => {
  const { status, out } = keen('sheets', 'demo')
  expect(status).toBe(0)
  expect(JSON.parse(out.join(''))[0]).toMatchObject({
    id: 'loans-a4',
    name: 'Loans, A4',
    widthMm: 297,
    heightMm: 210,
  })
})

describe('keen classify', () => {
  it('prints breaks from lowest to highest, counts and fit', () => {
    const { status, out } = keen(
      'classify',
      table,
      '--field',
      'loans',
      '--method',
      'natural-breaks',
      '--classes',
      '2',
    )
    expect(status).toBe(0)
    const { breaks, counts, gvf } = JSON.parse(out.join(''))
    expect([breaks[0], breaks[2], counts]).toEqual([1, 10, [2, 2]])
    expect(breaks[1]).toBeGreaterThan(2)
    expect(gvf).toBeCloseTo(1 - 1 / 65, 12)
  })

  it('takes every method and option, and prints labels and quality', () => {
    const classified = (...args: string[]) => JSON.parse(keen('classify', ...args).out.join(''))
    const districts = 'demo/data/districts.topojson'
    const returns = ['demo/data/district-returns.csv', '--field', 'lib_loans_2025', '--per', 'population']
    for (const method of ['standard-deviation', 'head-tail']) {
      const { breaks, counts, labels, gvf, tabularAccuracy } = classified(
        ...returns,
        '--method',
        method,
        '--classes',
        '4',
      )
      expect(counts.reduce((a: number, b: number) => a + b, 0)).toBe(160)
      expect([breaks.length, labels.length]).toEqual([counts.length + 1, counts.length])
      expect(gvf > 0 && gvf <= 1 && tabularAccuracy > 0 && tabularAccuracy <= 1).toBe(true)
    }
    expect(
      classified(
        table,
        '--field',
        'loans',
        '--method',
        'manual',
        '--breaks',
        '2,9',
        '--inclusive',
        'upper',
        '--labels',
        'dash',
      ),
    ).toMatchObject({
      breaks: [1, 2, 9, 10],
      counts: [2, 1, 1],
      labels: ['1–2', '2–9', '9–10'],
      boundaryAccuracy: null,
    })
    expect(
      classified(
        table,
        '--field',
        'loans',
        '--method',
        'equal-interval',
        '--classes',
        '2',
        '--set-aside',
        '10',
        '--midpoint',
        '5',
      ),
    ).toMatchObject({ breaks: [1, 5, 9], setAside: [1] })
    expect(keen('classify', districts, '--field', 'name', '--method', 'equal-area').err).toEqual([
      'keen: The field “name” holds text, not numbers.',
    ])
    expect(keen('classify', table, '--field', 'loans', '--method', 'boundary-error').err).toEqual([
      'keen: The method boundary-error needs areas; table.csv holds none.',
    ])
    expect(keen('classify', table, '--field', 'loans', '--method', 'manual').err[0]).toContain(
      'needs --breaks',
    )
  })

  it('says which fields there are', () => {
    expect(keen('classify', table, '--field', 'loanz').err).toEqual([
      'keen: table.csv has no field “loanz”. It has: code, loans, name.',
    ])
    expect(keen('classify', table, '--field', 'name').err).toEqual([
      'keen: The field “name” holds text, not numbers.',
    ])
    expect(keen('classify', table, '--field', 'loans', '--classes', '1').err[0]).toContain(
      'It takes a whole number from 2 to 12.',
    )
  })
})

describe('keen import', () => {
  const areas = at('areas.geojson')
  writeFileSync(
    areas,
    JSON.stringify({
      type: 'FeatureCollection',
      features: ['a', 'b', 'c'].map((code, i) => ({
        type: 'Feature',
        properties: { code, side: i < 2 ? 'west' : 'east' },
        geometry: square(-30 + i, 48),
      })),
    }),
  )
  const steps = at('steps.json')
  const join = {
    type: 'join',
    id: '1',
    on: true,
    settings: {
      datasetId: 'table',
      keys: [{ key: 'code', otherKey: 'code' }],
      mended: {},
      several: 'first',
      figures: [],
    },
  }
  const merge = {
    type: 'merge',
    id: '2',
    on: true,
    settings: { by: ['side'], figures: [{ field: 'loans', op: 'sum', weight: null }] },
  }
  const save = (list: object[]) =>
    writeFileSync(steps, JSON.stringify({ format: 'keen-steps', version: 1, steps: list }))

  it('reads files, carries out saved steps and writes the result, in one line', () => {
    save([join, merge])
    const { status, out, err } = keen('import', areas, table, '--steps', steps, '--out', at('out.geojson'))
    expect({ status, err }).toEqual({ status: 0, err: [] })
    expect(out[0]).toMatch(/out\.geojson: 2 areas, 2 fields/)
    const { features } = JSON.parse(readFileSync(at('out.geojson'), 'utf8'))
    expect(features.map((f: { properties: object }) => f.properties)).toEqual([
      { side: 'west', loans: 3 },
      { side: 'east', loans: 9 },
    ])
    expect(keen('import', areas, '--out', at('out.gpkg'), '--crs', 'EPSG:3035').status).toBe(0)
  })

  it('fails with one line that names the step or the file', () => {
    save([{ ...join, settings: { ...join.settings, datasetId: 'nowhere' } }])
    expect(keen('import', at('out.gpkg'), '--layer', 'gone', '--out', at('x.csv')).err[0]).toContain(
      'has no layer gone. It has: ',
    )
    expect(keen('import', areas, '--steps', steps, '--out', at('x.gpkg')).err).toEqual([
      'keen: Step 1 (join) could not be carried out: The dataset that it draws on is gone or not loaded yet.',
    ])
    save([{ type: 'dance', id: '1', on: true, settings: {} }])
    expect(keen('import', areas, '--steps', steps, '--out', at('x.gpkg')).err[0]).toContain(
      'steps.json is no list of prep steps',
    )
    expect(keen('import', areas, '--out', at('x.doc')).err[0]).toContain(
      'x.doc has an ending that nothing is saved under',
    )
    expect(keen('import', areas, '--out', at('x.gpkg'), '--crs', 'EPSG:1').err[0]).toContain(
      'There is no reference system EPSG:1',
    )
  })
})
