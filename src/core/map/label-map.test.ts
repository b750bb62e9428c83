import { describe, expect, it } from 'vitest'
import { overlaps } from '@/core/scene/bounds'
import { openDemo } from '../../../demo/open'
import { plainLabels, type LabelSettings } from '@/core/labels/spec'
import { walk, type Group, type Path, type Text } from '@/core/scene/scene'
import { mapFonts } from '@/core/sheet/parts/panel'
import { fontBookOf } from '@/render/font-files'
import { composeLabelledMap } from './compose-map'
import type { MapSpec, MapView } from './spec'
import { fitMap } from './view'

const { folio, datasets } = openDemo()
const window = { x: 0, y: 0, width: 260, height: 160 }
const compose = (map: MapSpec, view: MapView | null = fitMap(map, datasets, window)) => {
  if (!view) throw new Error('The map has an extent.')
  return composeLabelledMap({
    map,
    view,
    window,
    datasets,
    fonts: fontBookOf(mapFonts(map)),
    toleranceMm: 0.02,
  })
}
const mapOf = (id: string): MapSpec => {
  const map = folio.maps.find((one) => one.id === id)
  if (!map) throw new Error(`There is no map ${id}.`)
  return map
}
const textsIn = (map: MapSpec): string[] => compose(map).labels.placed.map(({ text }) => text)

describe('labels of a surface', () => {
  const gathered = mapOf('gathered')
  const withPeaks = (peaks: object | null, text?: LabelSettings['text']): MapSpec => ({
    ...gathered,
    layers: gathered.layers.map((layer) =>
      layer.id === 'readers-per-km2'
        ? ({
            ...layer,
            labels: layer.labels && text ? { ...layer.labels, text } : layer.labels,
            symbology: { ...layer.symbology, settings: { ...layer.symbology.settings, peaks } },
          } as MapSpec['layers'][number])
        : layer,
    ),
  })
  const names = { datasetId: 'towns', field: 'name' }

  it('name its peaks after the nearest towns, the highest first, with their values and unit', () => {
    const texts = textsIn(gathered)
    expect(texts).toHaveLength(6)
    expect(texts[0]).toMatch(/^Harrowmouth \d+ per 100 km²$/)
    const figures = texts.map((text) => Number(/(\d+) per/.exec(text)?.[1]))
    expect(figures).toEqual([...figures].sort((a, b) => b - a))
  })

  it('follow how many are wanted, how far they stand out, and what names them', () => {
    expect(textsIn(withPeaks({ most: 2, atLeast: 0.06, names, markMm: 1 }))).toHaveLength(2)
    expect(textsIn(withPeaks({ most: 9, atLeast: 0.9, names, markMm: 1 }))).toHaveLength(1)
    const districts = { datasetId: 'districts', field: 'code' }
    expect(textsIn(withPeaks({ most: 1, atLeast: 0, names: districts, markMm: 1 }))[0]).toMatch(/^LM\d\d\d /)
    expect(
      textsIn(withPeaks({ most: 1, atLeast: 0, names: null, markMm: 0 }, { by: 'field', field: 'peak' }))[0],
    ).toMatch(/^\d+ per 100 km²$/)
    expect(textsIn(withPeaks(null))).toEqual([])
  })
})

const towns = (
  change: (labels: ReturnType<typeof plainLabels>) => Partial<ReturnType<typeof plainLabels>> = () => ({}),
): MapSpec => {
  const map = mapOf('loans')
  return {
    ...map,
    layers: map.layers.map((layer) =>
      layer.id === 'towns' && layer.labels
        ? { ...layer, labels: { ...layer.labels, ...change(layer.labels) } }
        : layer,
    ),
  }
}

describe('labels of the demo maps', () => {
  it('never overlap each other, across all layers, and most stand where they read best', () => {
    const shares: Record<string, string> = {}
    let [best, all] = [0, 0]
    for (const map of folio.maps) {
      const { labels } = compose(map)
      const boxes = labels.placed.map((label) => label.boxes)
      boxes.forEach((own, i) => {
        for (const other of boxes.slice(i + 1))
          for (const a of own)
            for (const b of other)
              expect(overlaps(a, b), `${labels.placed[i].text} on the map ${map.name}`).toBe(false)
        for (const [x0, y0, x1, y1] of own)
          expect(x0 > 0 && y0 > 0 && x1 < window.width && y1 < window.height).toBe(true)
      })
      expect(labels.problems).toEqual([])
      if (!labels.placed.length) continue
      const preferred = labels.placed.filter((placed) => placed.preferred).length
      shares[map.name] =
        `${labels.placed.length} placed, ${labels.left.length} left out, ${Math.round((100 * preferred) / labels.placed.length)} % preferred`
      best += preferred
      all += labels.placed.length
      expect(preferred / labels.placed.length, `${map.name}: ${shares[map.name]}`).toBeGreaterThan(0.35)
    }
    expect(Object.keys(shares).length).toBeGreaterThan(8)
    expect(best / all).toBeGreaterThan(0.6)
  })

  it('keep off the symbols of every layer', () => {
    const map = mapOf('amounts')
    const { group, labels } = compose(map)
    const circles = [...walk([group])].filter(
      (node): node is Path => node.type === 'path' && node.outline.kind === 'circle',
    )
    expect(circles.length).toBeGreaterThan(100)
    const discs = circles.flatMap(({ outline }) => (outline.kind === 'circle' ? [outline] : []))
    const own = labels.placed.filter(({ layerId }) => layerId === 'loans-in-all')
    expect(own.length).toBeGreaterThan(5)
    for (const { boxes, at } of own)
      for (const [x0, y0, x1, y1] of boxes)
        for (const { x, y, r } of discs) {
          if (Math.hypot(at[0] - x, at[1] - y) < 0.01) continue
          expect(
            Math.hypot(Math.min(x1, Math.max(x0, x)) - x, Math.min(y1, Math.max(y0, y)) - y),
          ).toBeGreaterThan(0.9 * r)
        }
  })

  it('are the same for the same map', () => {
    expect(JSON.stringify(compose(mapOf('orientation')).labels)).toBe(
      JSON.stringify(compose(mapOf('orientation')).labels),
    )
  })
})

describe('labels', () => {
  it('are counted: every wanted one is placed or listed with a reason', () => {
    const { labels } = compose(towns(() => ({ sizePt: 22 })))
    const own = {
      placed: labels.placed.filter(({ layerId }) => layerId === 'towns'),
      left: labels.left.filter(({ layerId }) => layerId === 'towns'),
    }
    expect(own.left.length).toBeGreaterThan(0)
    for (const { reason } of own.left) expect(reason).not.toBe('')
    const names = [...own.placed, ...own.left].map(({ key }) => key)
    expect(new Set(names).size).toBe(names.length)
    expect(names.length).toBe(
      compose(towns()).labels.placed.filter(({ layerId }) => layerId === 'towns').length +
        compose(towns()).labels.left.filter(({ layerId }) => layerId === 'towns').length,
    )
  })

  it('stay where they were put by hand, with a line to what they name when far, and go back', () => {
    const [label] = compose(towns()).labels.placed.filter(({ layerId }) => layerId === 'towns')
    const moved = compose(towns(() => ({ moved: { [label.key]: [-33, 48.2] } })))
    const placed = moved.labels.placed.find(({ key, layerId }) => key === label.key && layerId === 'towns')
    expect(placed?.moved).toBe(true)
    const [x, y] = placed?.at ?? label.at
    expect(Math.hypot(x - label.at[0], y - label.at[1])).toBeGreaterThan(10)
    const names = moved.group.children.find(
      (node): node is Group => node.type === 'group' && node.name === 'Towns, labels',
    )
    const own = names?.children.find(
      (node): node is Group => node.type === 'group' && node.name === label.key,
    )
    expect(own?.children.map(({ type }) => type)).toEqual(['path', 'text'])
    const atHome = compose(towns()).group.children.find(
      (node): node is Group => node.type === 'group' && node.name === 'Towns, labels',
    )
    const home = atHome?.children.find(
      (node): node is Group => node.type === 'group' && node.name === label.key,
    )
    expect(home?.children.map(({ type }) => type)).toEqual(['text'])
  })

  it('are gone where they were taken away, and no other takes their key', () => {
    const [label] = compose(towns()).labels.placed.filter(({ layerId }) => layerId === 'towns')
    const { labels } = compose(towns(() => ({ without: [label.key] })))
    expect(
      [...labels.placed, ...labels.left].some(({ key, layerId }) => layerId === 'towns' && key === label.key),
    ).toBe(false)
  })

  it('say that a formula cannot be used', () => {
    const { labels } = compose(towns(() => ({ text: { by: 'formula', formula: 'nonsense + 1' } })))
    expect(labels.problems).toEqual([{ layerId: 'towns', problem: 'There is no field “nonsense”.' }])
  })

  it('come from the top layer first, unless others are more important', () => {
    const first = (importance: number) => compose(towns(() => ({ importance, sizePt: 16 }))).labels.placed
    const count = (placed: { layerId: string }[]) =>
      placed.filter(({ layerId }) => layerId === 'towns').length
    expect(count(first(5))).toBeGreaterThanOrEqual(count(first(1)))
  })

  it('are drawn as text of the typeface chosen', () => {
    const { group } = compose(towns())
    const texts = [...walk([group])].filter((node): node is Text => node.type === 'text')
    expect(new Set(texts.map(({ font }) => font.family))).toEqual(
      new Set(['source-sans-3', 'source-serif-4']),
    )
  })
})
