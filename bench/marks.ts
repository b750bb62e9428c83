import { createCanvas } from '@napi-rs/canvas'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { makeEntry, plainSource } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { kindOf, type KindId, type Symbology } from '@/core/kinds/registry'
import { composeMap } from '@/core/map/compose-map'
import { kindData } from '@/core/map/layer-plan'
import { makeLayer, makeMap, type MapSpec, type MapView } from '@/core/map/spec'
import { mmPerPx } from '@/core/scene/units'
import { createFontBook } from '@/core/scene/text'
import { drawScene } from '@/render/canvas/draw'
import { createPathCache } from '@/render/canvas/path-cache'
import { nodeSurface } from '@/render/raster/bitmap'
import { interleaved, type Ratio } from './measure'

const [widthPx, heightPx] = [1200, 800]
const window = { x: 0, y: 0, width: widthPx * mmPerPx, height: heightPx * mmPerPx }
const view: MapView = { centre: [10, 50], scaleDenominator: 2.2e6 }

/** A number between 0 and 1 that looks random and is the same in every run. */
const scattered = (i: number, salt: number): number => {
  const value = Math.sin(i * 12.9898 + salt * 78.233) * 43758.5453
  return value - Math.floor(value)
}

function places(count: number): Dataset {
  const coords = new Float64Array(2 * count)
  for (let i = 0; i < count; i++) {
    coords[2 * i] = 7 + 6 * scattered(i, 1)
    coords[2 * i + 1] = 48.2 + 3.6 * scattered(i, 2)
  }
  return {
    rowCount: count,
    geometry: { kind: 'points', coords, featureStarts: Uint32Array.from({ length: count + 1 }, (_, i) => i) },
    fields: [
      { key: 'name', column: textColumn(Array.from({ length: count }, (_, i) => `p${i}`)) },
      {
        key: 'amount',
        column: numberColumn(Array.from({ length: count }, (_, i) => 10 + 990 * scattered(i, 3) ** 4)),
      },
    ],
  }
}

function pairs(count: number, among: number): Dataset {
  const pick = (i: number, salt: number): string => `p${Math.floor(among * scattered(i, salt))}`
  return {
    rowCount: count,
    geometry: { kind: 'none' },
    fields: [
      { key: 'from', column: textColumn(Array.from({ length: count }, (_, i) => pick(i, 4))) },
      { key: 'to', column: textColumn(Array.from({ length: count }, (_, i) => pick(i, 5))) },
      {
        key: 'amount',
        column: numberColumn(Array.from({ length: count }, (_, i) => 1 + 99 * scattered(i, 6) ** 3)),
      },
    ],
  }
}

/** A map of one layer, from nothing: datasets, fonts and paths of its own. */
function mapOf(
  make: () => Record<string, Dataset>,
  shows: string,
  kind: KindId,
  change: (initial: never, variant: number) => unknown,
) {
  const sets = make()
  const entries = Object.keys(sets).map((id) =>
    makeEntry({
      id,
      name: id,
      geometry: sets[id].geometry.kind,
      source: plainSource(id, '', ''),
    }),
  )
  const datasets = prepareDatasets(entries, (id) => sets[id])
  const prepared = datasets.get(shows) as Prepared
  const initial = kindOf(kind).initial(kindData(prepared))
  const fonts = createFontBook()
  const paths = createPathCache()
  return (variant: number, shift = 0): void => {
    const layer = makeLayer({
      id: 'l',
      name: 'Marks',
      datasetId: shows,
      symbology: { kind, settings: change(initial as never, variant) } as Symbology,
    })
    const map: MapSpec = makeMap({
      id: 'm',
      name: 'Many',
      projection: { id: 'lambert-azimuthal-equal-area', centre: [10, 50], parallels: [0, 0] },
      layers: [layer],
    })
    const group = composeMap({
      map,
      view: { ...view, centre: [view.centre[0] + shift, view.centre[1]] },
      window,
      datasets,
      fonts,
      toleranceMm: 0.4 * mmPerPx,
    })
    const canvas = createCanvas(widthPx, heightPx)
    const context = canvas.getContext('2d')
    drawScene(
      context as never,
      {
        widthMm: window.width,
        heightMm: window.height,
        background: '#ffffff',
        title: '',
        author: '',
        children: [group],
      },
      { surface: nodeSurface, fonts, paths, pixelsPerMm: 1 / mmPerPx, widthPx, heightPx },
    )
    context.getImageData(0, 0, 1, 1)
  }
}

function ratiosOf(
  name: string,
  loop: () => void,
  words: string,
  make: () => ReturnType<typeof mapOf>,
): Ratio[] {
  make()(0)
  const warm = make()
  warm(0)
  let fresh = make()
  let n = 0
  const { base, first, restyled, panned } = interleaved({
    base: loop,
    first: { run: () => fresh(0), before: () => void (fresh = make()) },
    restyled: () => warm(++n),
    panned: () => warm(n, 0.003 * ++n),
  })
  console.log(
    `${name}: first ${first.toFixed(0)} ms, restyled ${restyled.toFixed(0)} ms, panned ${panned.toFixed(0)} ms, ${words} ${base.toFixed(0)} ms`,
  )
  return [
    { name: `${name}, first drawing`, ratio: first / base, budget: 1.8, base: words },
    { name: `${name}, other colours`, ratio: restyled / base, budget: 1.4, base: words },
    { name: `${name}, panning`, ratio: panned / base, budget: 1.4, base: words },
  ]
}

/**
 * 10,000 symbols and 5,000 flows against a plain loop that only fills and strokes as many circles and curves.
 */
export function markRatios(): Ratio[] {
  const colours = ['#b5533c', '#2b5d73', '#3c7a5a', '#7a5ca0']
  const canvas = createCanvas(widthPx, heightPx)
  const context = canvas.getContext('2d')
  const circles = (): void => {
    context.clearRect(0, 0, widthPx, heightPx)
    context.strokeStyle = '#ffffff'
    context.lineWidth = 0.5
    for (let i = 0; i < 10_000; i++) {
      context.fillStyle = '#b5533ccc'
      context.beginPath()
      context.arc(
        widthPx * scattered(i, 1),
        heightPx * scattered(i, 2),
        17 * Math.sqrt((10 + 990 * scattered(i, 3) ** 4) / 1000),
        0,
        2 * Math.PI,
      )
      context.fill()
      context.stroke()
    }
    context.getImageData(0, 0, 1, 1)
  }
  const curves = (): void => {
    context.clearRect(0, 0, widthPx, heightPx)
    context.strokeStyle = '#2b5d7399'
    for (let i = 0; i < 5_000; i++) {
      const [x0, y0, x1, y1] = [
        widthPx * scattered(i, 4),
        heightPx * scattered(i, 5),
        widthPx * scattered(i, 7),
        heightPx * scattered(i, 8),
      ]
      context.lineWidth = 0.4 + 3 * scattered(i, 6) ** 3
      context.beginPath()
      context.moveTo(x0, y0)
      context.bezierCurveTo(
        x0 + (y1 - y0) * 0.1,
        y0 - (x1 - x0) * 0.1,
        x1 + (y1 - y0) * 0.1,
        y1 - (x1 - x0) * 0.1,
        x1,
        y1,
      )
      context.stroke()
    }
    context.getImageData(0, 0, 1, 1)
  }
  circles()
  curves()
  const symbolMap = () =>
    mapOf(
      () => ({ places: places(10_000) }),
      'places',
      'symbols',
      (initial: Record<string, unknown>, variant) => ({
        ...initial,
        field: 'amount',
        anchor: { by: 'value', value: 1000, sizeMm: 9 },
        fill: colours[variant % 4],
        opacity: 0.8 - (variant % 3) * 0.1,
      }),
    )
  const flowMap = () =>
    mapOf(
      () => ({ flows: pairs(5_000, 400), places: places(400) }),
      'flows',
      'flows',
      (initial: Record<string, unknown>, variant) => ({
        ...initial,
        threshold: 0,
        anchor: { value: 100, widthMm: 0.9 },
        arrows: false,
        bend: 0.12,
        colour: { by: 'nothing', fill: colours[variant % 4] },
        opacity: 0.6,
      }),
    )
  return [
    ...ratiosOf('10,000 symbols', circles, 'as many circles in a plain loop', symbolMap),
    ...ratiosOf('5,000 flows', curves, 'as many curves in a plain loop', flowMap),
  ]
}
