import { createCanvas } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { composeMap } from '@/core/map/compose-map'
import type { MapSpec, MapView } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { mapFonts } from '@/core/sheet/parts/panel'
import { fontBookOf } from '../font-files'
import { nodeSurface } from '../raster/bitmap'
import { drawScene } from './draw'
import { createPathCache, type PathCache } from './path-cache'
import type { Context } from './surface'

const { folio, datasets } = openDemo()
const [map] = folio.maps
const window = { x: 0, y: 0, width: 120, height: 90 }
const fonts = fontBookOf(mapFonts(map))
const fitted = fitMap(map, datasets, window)
if (!fitted) throw new Error('The demo map has an extent.')

function pixels(spec: MapSpec, view: MapView, paths?: PathCache): Uint8ClampedArray {
  const canvas = createCanvas(480, 360)
  const context = canvas.getContext('2d')
  const children = [composeMap({ map: spec, view, window, datasets, fonts, toleranceMm: 0.1 })]
  drawScene(
    context as unknown as Context,
    {
      widthMm: window.width,
      heightMm: window.height,
      background: '#ffffff',
      title: '',
      author: '',
      children,
    },
    { surface: nodeSurface, fonts, paths, pixelsPerMm: 4, widthPx: 480, heightPx: 360 },
  )
  return context.getImageData(0, 0, 480, 360).data
}

const difference = (a: Uint8ClampedArray, b: Uint8ClampedArray): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / (255 * a.length)
const restyled = (scheme: 'ember' | 'slate', classes: number): MapSpec => ({
  ...map,
  layers: map.layers.map((layer) =>
    layer.symbology.kind === 'choropleth'
      ? {
          ...layer,
          symbology: { ...layer.symbology, settings: { ...layer.symbology.settings, scheme, classes } },
        }
      : layer,
  ),
})

describe('kept paths', () => {
  const paths = createPathCache()
  const away: MapView = {
    centre: [fitted.centre[0] + 0.6, fitted.centre[1] - 0.3],
    scaleDenominator: fitted.scaleDenominator / 3,
  }

  it('draw what tracing afresh draws: first, restyled, moved and zoomed', () => {
    const cases: [string, MapSpec, MapView][] = [
      ['first', map, fitted],
      ['again', map, fitted],
      ['other colours', restyled('ember', 4), fitted],
      ['other classes', restyled('slate', 9), fitted],
      ['moved and closer', map, away],
      ['back', map, fitted],
    ]
    for (const [words, spec, view] of cases)
      expect(difference(pixels(spec, view, paths), pixels(spec, view)), words).toBeLessThan(0.0008)
  })

  it('change with what they show', () => {
    expect(
      difference(pixels(restyled('ember', 4), fitted, paths), pixels(map, fitted, paths)),
    ).toBeGreaterThan(0.01)
    expect(difference(pixels(map, away, paths), pixels(map, fitted, paths))).toBeGreaterThan(0.01)
  })
})
