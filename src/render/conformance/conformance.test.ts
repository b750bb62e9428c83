import { describe, expect, it } from 'vitest'
import type { Node, Path, Scene } from '@/core/scene/scene'
import { fontBookOf, readFontFile } from '../font-files'
import { writePdf } from '../pdf/write'
import { renderPixels } from '../raster/bitmap'
import { writeSvg } from '../svg/write'
import { drawPdf, drawSvg, worstTile, type Pixels } from './compare'
import { conformanceFonts, conformanceScenes } from './scenes'
import { spoil } from './spoil'

const fonts = fontBookOf(conformanceFonts)
const scenes = conformanceScenes(fonts)
// 6 pixels a millimetre, so that a scene is a whole number of pixels wide in every output.
const dpi = 152.4

/** Programs smooth edges and letters each in its own way; more than this in one square is something else. */
const limits = { svg: 0.04, pdf: 0.085 }

const asSvg = (scene: Scene, size: Pixels) =>
  drawSvg(writeSvg(scene, { fonts, text: 'outlines', fontBytes: readFontFile }), size)
const asPdf = async (scene: Scene, size: Pixels) =>
  drawPdf(await writePdf([scene], { fonts, fontBytes: readFontFile, date: new Date(0) }), size)

describe('one scene looks alike in every output', () => {
  for (const [title, scene] of Object.entries(scenes)) {
    it(title, async () => {
      const canvas = await renderPixels(scene, fonts, dpi)
      const blank = { ...canvas, rgba: Buffer.alloc(canvas.rgba.length, 255) }
      expect(worstTile(canvas, blank).difference, 'something is drawn').toBeGreaterThan(0.15)
      expect(worstTile(canvas, await asSvg(scene, canvas)).difference, 'SVG').toBeLessThan(limits.svg)
      expect(worstTile(canvas, await asPdf(scene, canvas)).difference, 'PDF').toBeLessThan(limits.pdf)
    })
  }
})

const onPaths =
  (change: (path: Path) => Path) =>
  (node: Node): Node | null =>
    node.type === 'path' ? change(node) : node
const onStrokes = (change: (stroke: Path['strokes'][number]) => Path['strokes'][number]) =>
  onPaths((path) => ({ ...path, strokes: path.strokes.map(change) }))

/** The first node of a sort is changed, all others stay. */
function first(type: Node['type'], change: (node: Node) => Node | null) {
  let done = false
  return (node: Node): Node | null => {
    if (done || node.type !== type) return node
    done = true
    return change(node)
  }
}

describe('a scene that is spoilt in one place is told from the true one', () => {
  const cases: [string, string, () => (node: Node) => Node | null][] = [
    ['square caps drawn butt', 'caps and joins', () => onStrokes((s) => ({ ...s, cap: 'butt' }))],
    ['joins all alike', 'caps and joins', () => onStrokes((s) => ({ ...s, join: 'bevel' }))],
    ['dashes drawn solid', 'dashes', () => onStrokes((s) => ({ ...s, dashMm: [] }))],
    [
      'strokes a quarter too narrow',
      'strokes of several widths',
      () => onStrokes((s) => ({ ...s, widthMm: 0.75 * s.widthMm })),
    ],
    ['holes filled', 'filled star, even-odd', () => onPaths((p) => ({ ...p, fillRule: 'nonzero' }))],
    ['a line of text missing', 'text', () => first('text', () => null)],
    [
      'a text half a millimetre off',
      'text',
      () => first('text', (node) => (node.type === 'text' ? { ...node, y: node.y + 0.5 } : node)),
    ],
    ['no halo', 'halo', () => (node) => (node.type === 'text' ? { ...node, halo: null } : node)],
    ['no clip', 'clip to a circle', () => (node) => (node.type === 'group' ? { ...node, clip: null } : node)],
    ['no mask', 'a soft edge', () => (node) => (node.type === 'group' ? { ...node, mask: null } : node)],
    [
      'no blending',
      'multiply',
      () => (node) => (node.type === 'group' ? { ...node, blend: 'normal' } : node),
    ],
    [
      'opacity left out',
      'nested opacity',
      () => (node) => (node.type === 'group' ? { ...node, opacity: 1 } : node),
    ],
    ['a picture missing', 'picture', () => first('picture', () => null)],
  ]
  for (const [what, title, change] of cases)
    it(`${what}: ${title}`, async () => {
      const scene = scenes[title]
      const canvas = await renderPixels(scene, fonts, dpi)
      const spoilt = spoil(scene, change())
      expect(worstTile(canvas, await asSvg(spoilt, canvas)).difference, 'SVG').toBeGreaterThan(limits.svg)
      expect(worstTile(canvas, await asPdf(spoilt, canvas)).difference, 'PDF').toBeGreaterThan(limits.pdf)
    })
})
