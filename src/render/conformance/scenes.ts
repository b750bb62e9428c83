import { circle, polygon, polyline, rectangle, type Outline } from '@/core/scene/outline'
import { solid, stroke, type BlendMode, type Paint } from '@/core/scene/paint'
import { cellsAtHand, group, path, rotateAround, translate, type Node, type Scene } from '@/core/scene/scene'
import { ellipse, insetBox } from '@/core/scene/shapes'
import { softEdge } from '@/core/scene/soft-edge'
import { lettersNode, textNode, type FontBook, type TextFont, type TextStyle } from '@/core/scene/text'
import { rgbaToPng } from '../svg/png'

export const conformanceFonts: TextFont[] = [
  { family: 'source-sans-3', weight: 400, italic: false },
  { family: 'source-serif-4', weight: 700, italic: true },
]

const plum = '#9c1f5e'
const blue = '#2b6ca3'
const sand = '#e8d9b5'

const star: Outline = polygon([20, 3, 26, 36, 3, 14, 37, 14, 14, 36])
const wave: Outline = {
  kind: 'curves',
  verbs: ['M', 'C', 'C'],
  coords: Float64Array.from([4, 20, 12, 0, 18, 0, 20, 20, 22, 40, 28, 40, 36, 20]),
}
const box20 = { x: 5, y: 8, width: 30, height: 24 }
const box = (x: number, y: number, size: number) => rectangle({ x, y, width: size, height: size })

const blends = (blend: BlendMode): Node[] => [
  path(box(4, 4, 22), { fill: solid(sand) }),
  group(
    'over',
    [path(box(14, 14, 22), { fill: solid(blue) }), path(circle(14, 26, 8), { fill: solid(plum) })],
    { blend },
  ),
]

/** Dots in a loose net, each a little aside. */
function manyDots(colour: string, r: number, shift: number): Node {
  const coords = Array.from({ length: 900 }, (_, i) => [
    5 + (i % 30) + 0.4 * Math.sin(7 * i + shift),
    5 + Math.floor(i / 30) + 0.4 * Math.cos(11 * i + shift),
  ])
  const place = { scale: 1, dx: 0.1 * shift, dy: 0 }
  return path({ kind: 'dots', coords: Float64Array.from(coords.flat()), r, place }, { fill: solid(colour) })
}

const sweep = (type: 'linear' | 'radial', first: string, last: string): Paint =>
  type === 'linear'
    ? {
        type,
        from: [4, 4],
        to: [36, 30],
        stops: [
          { offset: 0, colour: first },
          { offset: 0.4, colour: '#f2e6a0' },
          { offset: 1, colour: last },
        ],
      }
    : {
        type,
        centre: [20, 20],
        radius: 17,
        stops: [
          { offset: 0, colour: first },
          { offset: 1, colour: last },
        ],
      }

const cells = {
  columns: 4,
  rows: 3,
  rgba: cellsAtHand(
    Uint8ClampedArray.from(
      [...Array(12).keys()].flatMap((i) => [20 * i, 255 - 20 * i, 120, i % 3 ? 255 : 128]),
    ),
    4,
  ),
}

/** Letters on half a circle, each turned with it, with a halo. */
function curved(fonts: FontBook, text: string, style: TextStyle): Node {
  const letters = [...text].map((_, i) => {
    const angle = Math.PI * (1 + (i + 0.5) / text.length)
    return {
      x: 20 + 15 * Math.cos(angle),
      y: 28.02 + 15 * Math.sin(angle),
      rotationDeg: (angle * 180) / Math.PI + 90,
    }
  })
  const node = lettersNode(fonts, text, style, {
    letters,
    options: {
      colour: '#1b1b1b',
      halo: { colour: '#f0d9a0', widthMm: 0.4 },
    },
  })
  if (!node) throw new Error('Glyphs and letters correspond here.')
  return node
}

/**
 * Small scenes, 40 mm square, that every renderer must draw alike. Baselines lie a little off whole pixels:
 * poppler takes glyphs down to the pixel they begin in, which is a matter of chance exactly on a limit.
 */
export function conformanceScenes(fonts: FontBook): Record<string, Scene> {
  const sans = { font: conformanceFonts[0], sizeMm: 5, letterSpacingMm: 0 }
  const serif = { font: conformanceFonts[1], sizeMm: 6, letterSpacingMm: 0 }
  const scenes: Record<string, Node[]> = {
    'filled star, nonzero': [path(star, { fill: solid(plum) })],
    'filled star, even-odd': [path(star, { fill: solid(plum), fillRule: 'evenodd' })],
    'hole by winding': [
      path(polygon([4, 4, 36, 4, 36, 36, 4, 36], [12, 12, 12, 28, 28, 28, 28, 12]), { fill: solid(blue) }),
    ],
    'strokes of several widths': [0.1, 0.3, 1, 2.5].map((w, i) =>
      path(polyline([4, 6 + 9 * i, 20, 3 + 9 * i, 36, 8 + 9 * i]), { strokes: [stroke(blue, w)] }),
    ),
    'caps and joins': (['butt', 'round', 'square'] as const).map((cap, i) =>
      path(polyline([6, 6 + 12 * i, 30, 6 + 12 * i, 20, 14 + 12 * i]), {
        strokes: [stroke(plum, 2, { cap, join: (['miter', 'round', 'bevel'] as const)[i] })],
      }),
    ),
    dashes: [path(wave, { strokes: [stroke(blue, 0.8, { dashMm: [3, 1.5, 0.8, 1.5], cap: 'butt' })] })],
    'casing of two strokes': [path(wave, { strokes: [stroke('#333333', 3), stroke('#ffd36b', 1.6)] })],
    'curves and circles': [
      path(circle(20, 20, 15), { fill: solid(sand), strokes: [stroke(blue, 0.5)] }),
      path(wave, { strokes: [stroke(plum, 1)] }),
    ],
    'translucent colours': [
      path(circle(15, 18, 11), { fill: solid('#2b6ca380') }),
      path(circle(25, 22, 11), { fill: solid('#9c1f5e80'), strokes: [stroke('#00000080', 1)] }),
    ],
    'a few dots, some of them nowhere': [
      path(
        {
          kind: 'dots',
          coords: Float64Array.from([2, 2, 5, 9, NaN, NaN, 8, 3, 7.5, 3.5]),
          r: 1.5,
          place: { scale: 4, dx: 1, dy: 0.5 },
        },
        { fill: solid(plum) },
      ),
    ],
    'many dots, clipped': [
      path(box(2, 2, 36), { fill: solid(sand) }),
      group('dotted', [manyDots(blue, 0.35, 0), manyDots(plum, 0.6, 1)], { clip: circle(20, 20, 17) }),
    ],
    'many dots, turned': [
      group('turned', [manyDots(blue, 0.5, 2)], { transform: rotateAround(30, 20, 20), opacity: 0.6 }),
    ],
    'clip to a circle': [
      group(
        'clipped',
        [path(box(0, 0, 24), { fill: solid(blue) }), path(box(16, 16, 24), { fill: solid(sand) })],
        { clip: circle(20, 20, 14) },
      ),
    ],
    'a soft edge': [
      path(box(2, 2, 36), { fill: solid(sand) }),
      group(
        'faded',
        [path(box(0, 0, 40), { fill: solid(blue) }), path(circle(20, 20, 9), { fill: solid(plum) })],
        { mask: softEdge((by) => ellipse(insetBox(box20, by)), 8), transform: rotateAround(30, 20, 20) },
      ),
    ],
    'nested opacity': [
      path(box(2, 2, 20), { fill: solid(sand) }),
      group(
        'outer',
        [
          path(box(8, 8, 20), { fill: solid(blue) }),
          group('inner', [path(box(16, 16, 20), { fill: solid(plum) })], { opacity: 0.5 }),
        ],
        { opacity: 0.6 },
      ),
    ],
    'opacity of a group, not of its parts': [
      group(
        'two',
        [path(circle(15, 20, 11), { fill: solid(blue) }), path(circle(25, 20, 11), { fill: solid(blue) })],
        { opacity: 0.4 },
      ),
    ],
    multiply: blends('multiply'),
    overlay: blends('overlay'),
    screen: blends('screen'),
    'darken, lighten': [
      ...blends('darken'),
      group('light', [path(circle(30, 10, 8), { fill: solid('#c0c0c0') })], { blend: 'lighten' }),
    ],
    'soft light': blends('soft-light'),
    'blend inside a clip stays inside': [
      path(box(0, 0, 40), { fill: solid(sand) }),
      group(
        'panel',
        [
          path(box(6, 6, 20), { fill: solid('#88bb88') }),
          group('m', [path(box(14, 14, 20), { fill: solid(blue) })], { blend: 'multiply' }),
        ],
        { clip: box(4, 4, 30) },
      ),
    ],
    'linear gradient': [path(box(4, 4, 32), { fill: sweep('linear', plum, blue) })],
    'linear gradient with alpha': [
      path(box(0, 14, 40), { fill: solid('#444444') }),
      path(box(4, 4, 32), { fill: sweep('linear', '#9c1f5eff', '#2b6ca300') }),
    ],
    'radial gradient with alpha': [
      path(box(0, 14, 40), { fill: solid('#dddddd') }),
      path(circle(20, 20, 17), { fill: sweep('radial', '#9c1f5eff', '#9c1f5e00') }),
    ],
    hatch: [
      path(star, {
        fill: {
          type: 'hatch',
          colour: '#444444',
          background: '#f0f0f0',
          angleDeg: 45,
          spacingMm: 1.5,
          widthMm: 0.3,
        },
      }),
    ],
    'hatch, crossed': [
      path(star, {
        fill: {
          type: 'hatch',
          colour: '#444444',
          background: '#f0f0f0',
          angleDeg: 30,
          spacingMm: 2,
          widthMm: 0.3,
          form: 'crossed',
        },
      }),
    ],
    'hatch of dots': [
      path(star, {
        fill: {
          type: 'hatch',
          colour: '#444444',
          background: '#f0f0f0',
          angleDeg: 0,
          spacingMm: 1.6,
          widthMm: 0.7,
          form: 'dots',
        },
      }),
    ],
    'hatch, no ground': [
      path(circle(20, 20, 16), {
        fill: { type: 'hatch', colour: blue, background: null, angleDeg: 110, spacingMm: 2.2, widthMm: 0.5 },
        strokes: [stroke(blue, 0.3)],
      }),
    ],
    text: [
      textNode(fonts, 'Harrowmouth', sans, { x: 4, y: 12.02, colour: '#1b1b1b' }),
      textNode(fonts, 'AVATAR fjord', serif, { x: 3, y: 26.02, colour: plum }),
    ],
    'rotated text': [
      textNode(fonts, 'Oldquay', serif, {
        x: 20,
        y: 20.02,
        colour: '#1b1b1b',
        anchor: 'middle',
        rotationDeg: -35,
      }),
      textNode(fonts, 'end', sans, { x: 38, y: 38.02, colour: blue, anchor: 'end', rotationDeg: 90 }),
    ],
    'letters on a curve': [curved(fonts, 'Šedrå fjord', { ...serif, sizeMm: 5 })],
    'letter-spaced text': [
      textNode(
        fonts,
        'OFFSHORE fi',
        { ...sans, sizeMm: 4, letterSpacingMm: 1 },
        { x: 2, y: 20.02, colour: '#1b1b1b' },
      ),
    ],
    halo: [
      path(box(0, 0, 40), {
        fill: {
          type: 'hatch',
          colour: '#777777',
          background: null,
          angleDeg: 0,
          spacingMm: 2,
          widthMm: 2 / 3,
        },
      }),
      textNode(
        fonts,
        'Perran',
        { ...serif, sizeMm: 9 },
        { x: 4, y: 24.02, colour: '#1b1b1b', halo: { colour: '#ffffff', widthMm: 0.8 } },
      ),
    ],
    'accents beyond the first file': [
      textNode(fonts, 'Šedrå ő Łæ', sans, { x: 4, y: 20.02, colour: '#1b1b1b' }),
    ],
    picture: [
      {
        type: 'picture',
        box: { x: 4, y: 6, width: 32, height: 24 },
        mime: 'image/png',
        bytes: rgbaToPng({
          columns: 32,
          rows: 24,
          rgba: cellsAtHand(
            Uint8ClampedArray.from(
              [...Array(768).keys()].flatMap((i) => [(i % 32) * 8, Math.floor(i / 32) * 10, 90, 255]),
            ),
            32,
          ),
        }),
      },
    ],
    'raster with alpha': [
      path(box(0, 10, 40), { fill: solid('#cccccc') }),
      { type: 'raster', box: { x: 4, y: 6, width: 32, height: 24 }, smooth: false, ...cells },
    ],
    'transforms nested': [
      group(
        'turned',
        [
          group(
            'moved',
            [
              path(box(0, 0, 14), { fill: solid(blue) }),
              textNode(fonts, 'in', sans, { x: 3, y: 9.02, colour: '#ffffff' }),
            ],
            { transform: translate(13, 13) },
          ),
        ],
        { transform: rotateAround(30, 20, 20) },
      ),
    ],
  }
  return Object.fromEntries(
    Object.entries(scenes).map(([title, children]) => [
      title,
      { widthMm: 40, heightMm: 40, background: '#ffffff', title, author: 'Keen Plot', children },
    ]),
  )
}
