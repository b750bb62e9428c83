import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas'
import { geoAzimuthalEqualArea, geoPath, type GeoContext, type GeoProjection } from 'd3-geo'
import { feature } from 'topojson-client'
import type { FeatureCollection } from 'geojson'
import type { GeometryObject, Topology } from 'topojson-specification'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { makeEntry, plainSource } from '@/core/data/entry'
import { composeMap } from '@/core/map/compose-map'
import { kindData } from '@/core/map/layer-plan'
import { makeLayer, makeMap, type MapSpec, type MapView } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { kindOf, type Symbology } from '@/core/kinds/registry'
import { adviseEqualArea } from '@/core/projection/adviser'
import { extentOf } from '@/core/geo/extent'
import { mmPerPx } from '@/core/scene/units'
import { createFontBook } from '@/core/scene/text'
import { datasetFromTopology } from '@/formats/topojson/read'
import { drawScene } from '@/render/canvas/draw'
import { createPathCache } from '@/render/canvas/path-cache'
import { nodeSurface } from '@/render/raster/bitmap'
import { largeCountry } from '../demo/lindmere/large'
import { interleaved, type Ratio } from './measure'

const widthPx = 1200
const heightPx = 800

/**
 * First drawing and restyling of 20,000 areas with 600,000 vertices against a plain loop over the same
 * features.
 */
export function drawingRatios(): Ratio[] {
  const topology = largeCountry(20_000, 600_000)
  const features = (
    feature(topology, topology.objects.areas as GeometryObject) as unknown as FeatureCollection
  ).features
  const vertices = features.reduce(
    (n, f) =>
      n +
      (f.geometry.type === 'Polygon' ? f.geometry.coordinates.reduce((m, ring) => m + ring.length, 0) : 0),
    0,
  )
  console.log(`${features.length} areas, ${vertices} vertices`)
  // d3-geo takes rings the other way round: clockwise outside.
  for (const { geometry } of features)
    if (geometry.type === 'Polygon') for (const ring of geometry.coordinates) ring.reverse()

  const canvas = createCanvas(widthPx, heightPx)
  const context = canvas.getContext('2d')
  const projection = geoAzimuthalEqualArea()
    .rotate([28, -49])
    .fitExtent(
      [
        [20, 20],
        [widthPx - 20, heightPx - 20],
      ],
      { type: 'FeatureCollection', features },
    )
  const colours = ['#edf8fb', '#b2e2e2', '#66c2a4', '#2ca25f', '#006d2c']
  const loop = () => plainLoop(context, features, projection, colours)

  const scene = mapOf(topology)
  loop()
  scene.draw(0)
  let fresh = mapOf(topology)
  let styled = 0
  const { base, first, restyled, panned } = interleaved({
    base: loop,
    first: { run: () => fresh.draw(0), before: () => void (fresh = mapOf(topology)) },
    restyled: () => scene.draw(++styled),
    panned: () => scene.draw(styled, 0.002 * ++styled),
  })
  const d3 = `d3-geo’s path in a plain loop (${base.toFixed(0)} ms)`
  return [
    { name: 'first drawing', ratio: first / base, budget: 1, base: d3 },
    { name: 'other breaks and colours', ratio: restyled / base, budget: 0.25, base: d3 },
    { name: 'panning', ratio: panned / base, budget: 0.6, base: d3 },
  ]
}

export function plainLoop(
  context: SKRSContext2D,
  features: FeatureCollection['features'],
  projection: GeoProjection,
  colours: string[],
): void {
  const path = geoPath(projection, context as unknown as GeoContext)
  context.clearRect(0, 0, widthPx, heightPx)
  context.strokeStyle = '#ffffff'
  context.lineWidth = 0.33
  features.forEach((f, i) => {
    context.beginPath()
    path(f)
    context.fillStyle = colours[i % colours.length]
    context.fill()
    context.stroke()
  })
  context.getImageData(0, 0, 1, 1)
}

/** The same areas as a choropleth of ours, read afresh, so that nothing has been projected yet. */
export function mapOf(topology: Topology) {
  const { dataset } = datasetFromTopology(topology, topology.objects.areas as GeometryObject, 'large')
  const entry = makeEntry({
    id: 'areas',
    name: 'Areas',
    geometry: 'areas',
    source: plainSource('areas', '', ''),
  })
  const datasets = prepareDatasets([entry], () => dataset)
  const prepared = datasets.get('areas') as Prepared
  const extent = extentOf([dataset.geometry])
  if (!extent) throw new Error('The large country is empty.')
  const settings = kindOf('choropleth').initial(kindData(prepared)) as Extract<
    Symbology,
    { kind: 'choropleth' }
  >['settings']
  const map = (variant: number): MapSpec =>
    makeMap({
      id: 'm',
      name: 'Large',
      projection: adviseEqualArea(extent),
      background: '#ffffff',
      layers: [
        makeLayer({
          id: 'l',
          name: 'Areas',
          datasetId: 'areas',
          symbology: {
            kind: 'choropleth',
            settings: {
              ...settings,
              field: 'value',
              method: 'manual',
              manualBreaks: [10, 14, 18, 24].map((b) => b + variant / 10),
              scheme: variant % 2 ? 'reed' : 'ember',
            },
          },
        }),
      ],
    })
  const window = { x: 0, y: 0, width: widthPx * mmPerPx, height: heightPx * mmPerPx }
  const fonts = createFontBook()
  const paths = createPathCache()
  let view: MapView | null = null
  return {
    /** The map's specification and its data, for sheets. */
    map,
    datasets,
    draw(variant: number, shift = 0) {
      const spec = map(variant)
      view ??= fitMap(spec, datasets, window)
      if (!view) throw new Error('The map has no extent.')
      const shifted: MapView = { ...view, centre: [view.centre[0] + shift, view.centre[1]] }
      const group = composeMap({
        map: spec,
        view: shifted,
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
    },
  }
}
