import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { generalise } from '@/core/geo/generalise'
import { projectGeometry } from '@/core/geo/projected'
import { kindData } from '@/core/map/layer-plan'
import { fitWhole, paperTransform } from '@/core/map/view'
import { makeLayer, makeMap } from '@/core/map/spec'
import { createProjection } from '@/core/projection/projection'
import { walk, type Path } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import { symbologyOf } from '../registry'
import { presets } from './presets'
import type { PlainSettings } from './spec'
import { plain } from '.'

const { folio, datasets } = openDemo()
const { projection: spec } = folio.maps[0]
const window = { x: 0, y: 0, width: 200, height: 150 }
const settings = (more: Partial<PlainSettings> = {}): PlainSettings => ({
  fill: '#dddddd',
  stroke: { colour: '#333333', widthPt: 1, dashed: false },
  casing: null,
  dotPt: 4,
  dotShape: 'circle',
  ...more,
})

/** What a dataset of the demo looks like plainly: all its paths. */
function drawn(id: string, look: PlainSettings): Path[] {
  const prepared = datasets.get(id)
  if (!prepared) throw new Error(`The demo has no ${id}.`)
  const layer = makeLayer({ id: 'l', name: 'L', datasetId: id, symbology: symbologyOf('plain', look) })
  const map = makeMap({ id: 'm', name: 'M', projection: spec, layers: [layer] })
  const view = fitWhole(map, datasets, window)
  if (!view) throw new Error('There is nothing to fit.')
  const projection = createProjection(spec)
  const to = paperTransform(projection, view, window)
  const nodes = plain.draw(
    null,
    look,
    {
      dataset: prepared.dataset,
      projection,
      projected: generalise(projectGeometry(prepared.dataset.geometry, projection), 0.1 / to.mmPerMetre),
      to,
      window,
      fonts: createFontBook(),
      toleranceMm: 0.1,
      datasetOf: prepared.datasetOf,
      featureName: (feature) => `f${feature}`,
    },
    null,
  )
  return [...walk(nodes)].filter((node) => node.type === 'path')
}

describe('plain areas', () => {
  it('are filled once each and have their borders drawn once', () => {
    const paths = drawn('districts', settings())
    const filled = paths.filter(({ fill }) => fill)
    expect(filled.flatMap(({ features }) => features?.names ?? [])).toHaveLength(164)
    expect(filled.every(({ fill }) => fill?.type === 'solid' && fill.colour === '#dddddd')).toBe(true)
    const lines = paths.flatMap(({ strokes }) => strokes).filter(({ colour }) => colour === '#333333')
    expect(lines.every(({ widthMm }) => Math.abs(widthMm - pointsToMm(1)) < 1e-9)).toBe(true)
  })

  it('without fill are borders alone, without a line they are ground alone', () => {
    expect(drawn('districts', settings({ fill: null })).every(({ fill }) => fill === null)).toBe(true)
    const bare = drawn('districts', settings({ stroke: { colour: '#333333', widthPt: 0, dashed: false } }))
    expect(bare.flatMap(({ strokes }) => strokes).filter(({ colour }) => colour === '#333333')).toEqual([])
  })
})

describe('plain lines', () => {
  it('lie over their casing, which is wider on both sides', () => {
    const look = settings({ fill: null, casing: { colour: '#ff0000', widthPt: 0.5 } })
    const strokes = drawn('rivers', look).flatMap((path) => path.strokes)
    const [first] = strokes
    const last = strokes[strokes.length - 1]
    expect([first.colour, last.colour]).toEqual(['#ff0000', '#333333'])
    expect(first.widthMm).toBeCloseTo(pointsToMm(1 + 2 * 0.5), 9)
  })

  it('are dashed when they are to be', () => {
    const dashed = drawn(
      'rivers',
      settings({ fill: null, stroke: { colour: '#333333', widthPt: 1, dashed: true } }),
    )
    expect(dashed.flatMap(({ strokes }) => strokes).every(({ dashMm }) => dashMm.length === 2)).toBe(true)
  })
})

describe('plain points', () => {
  it('are as many dots as there are towns, of their size; those of size 0 are none', () => {
    const dots = drawn('towns', settings())
    expect(dots).toHaveLength(60)
    const { outline } = dots[0]
    expect(outline.kind === 'circle' && 2 * outline.r).toBeCloseTo(pointsToMm(4), 9)
    expect(drawn('towns', settings({ dotPt: 0 }))).toEqual([])
  })
})

describe('the settings of the plain kind', () => {
  it('that are proposed, and all presets, are valid and drawn for what they are meant for', () => {
    const ids = { areas: 'districts', lines: 'rivers', points: 'towns' } as const
    for (const preset of presets) {
      expect(plain.settings.parse(preset.settings)).toEqual(preset.settings)
      expect(drawn(ids[preset.shape], preset.settings).length, preset.label).toBeGreaterThan(0)
    }
    for (const id of Object.values(ids)) {
      const prepared = datasets.get(id)
      if (prepared) expect(drawn(id, plain.initial(kindData(prepared))).length).toBeGreaterThan(0)
    }
  })
})
