import { channels, type Paint, type Stroke } from '@/core/scene/paint'
import { extentOf } from '@/core/scene/extent'
import { outlineBox, trace, type Box, type Dots, type Outline } from '@/core/scene/outline'
import { stampDots } from './dots'
import { cachedPath, type PathCache } from './path-cache'
import {
  needsCompositing,
  walk,
  type Group,
  type Node,
  type Path,
  type Picture,
  type Raster,
  type Scene,
  type Text,
} from '@/core/scene/scene'
import { traceGlyphs, type FontBook } from '@/core/scene/text'
import { hatchCap, hatchLines } from '../hatch'
import type { Context, Drawable, Surface } from './surface'

type Job = {
  surface: Surface
  fonts: FontBook
  pictures: Map<Picture, Drawable>
  paths: PathCache | null
  widthPx: number
  heightPx: number
}

/** Decodes the pictures of a scene; drawing itself is synchronous. */
export async function decodePictures(scene: Scene, surface: Surface): Promise<Map<Picture, Drawable>> {
  const pictures = [...walk(scene.children)].filter((node) => node.type === 'picture')
  return new Map(await Promise.all(pictures.map(async (p) => [p, await decoded(p, surface)] as const)))
}

/** Decoded pictures by their bytes, as long as these are at hand: the same bytes are decoded once. */
const decodedBytes = new WeakMap<Uint8Array, Promise<Drawable>>()

function decoded({ bytes, mime }: Picture, surface: Surface): Promise<Drawable> {
  const known = decodedBytes.get(bytes)
  if (known) return known
  const made = surface.decode(bytes, mime)
  decodedBytes.set(bytes, made)
  made.catch(() => decodedBytes.delete(bytes))
  return made
}

export type DrawOptions = {
  surface: Surface
  fonts: FontBook
  pictures?: Map<Picture, Drawable>
  paths?: PathCache
  pixelsPerMm: number
  /** Where the scene's top left corner comes to lie, in pixels. */
  offsetPx?: [number, number]
  widthPx: number
  heightPx: number
}

/** Draws a scene onto a canvas context of the given size, over what is there. */
export function drawScene(context: Context, scene: Scene, options: DrawOptions): void {
  const { surface, fonts, pixelsPerMm, widthPx, heightPx } = options
  const job: Job = {
    surface,
    fonts,
    pictures: options.pictures ?? new Map(),
    paths: options.paths ?? null,
    widthPx,
    heightPx,
  }
  const [dx, dy] = options.offsetPx ?? [0, 0]
  context.save()
  context.setTransform(pixelsPerMm, 0, 0, pixelsPerMm, dx, dy)
  if (scene.background) {
    context.fillStyle = css(scene.background)
    context.fillRect(0, 0, scene.widthMm, scene.heightMm)
  }
  drawAll(context, scene.children, job)
  context.restore()
}

/** What a context was set to last, so that paths which share a look set it once. */
type Pen = { fill: Paint | null; stroke: Stroke | null }

function drawAll(context: Context, nodes: Node[], job: Job): void {
  const pen: Pen = { fill: null, stroke: null }
  for (const node of nodes) {
    if (node.type === 'path' && node.outline.kind === 'dots') {
      drawDots(context, node.outline, node.fill, job)
      pen.fill = pen.stroke = null
    } else if (node.type === 'path' && node.outline.kind !== 'rings' && node.fill?.type !== 'hatch')
      drawAtOnce(context, node, pen)
    else {
      drawNode(context, node, job)
      pen.fill = pen.stroke = null
    }
  }
}

function drawNode(context: Context, node: Node, job: Job): void {
  if (node.type === 'group') drawGroup(context, node, job)
  else if (node.type === 'path') drawPath(context, node, job)
  else if (node.type === 'text') drawText(context, node, job)
  else if (node.type === 'picture') drawPicture(context, node, job)
  else drawRaster(context, node, job)
}

function drawGroup(context: Context, node: Group, job: Job): void {
  context.save()
  if (node.transform) context.transform(...node.transform)
  if (node.clip) clipTo(context, node.clip, 'nonzero', job)
  if (needsCompositing(node)) {
    const to = context.getTransform()
    const area = pixelsOf(node, to, job)
    if (area) {
      const layer = job.surface.createCanvas(area.width, area.height)
      layer.context.setTransform(to.a, to.b, to.c, to.d, to.e - area.x, to.f - area.y)
      const inside = { ...job, widthPx: area.width, heightPx: area.height }
      drawAll(layer.context, node.children, inside)
      if (node.mask) {
        const mask = job.surface.createCanvas(area.width, area.height)
        mask.context.fillStyle = '#000000'
        mask.context.fillRect(0, 0, area.width, area.height)
        mask.context.setTransform(layer.context.getTransform())
        drawAll(mask.context, node.mask, inside)
        lightToAlpha(mask.context, area)
        layer.context.setTransform(1, 0, 0, 1, 0, 0)
        layer.context.globalCompositeOperation = 'destination-in'
        layer.context.drawImage(mask.canvas, 0, 0)
      }
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = node.opacity
      context.globalCompositeOperation = node.blend === 'normal' ? 'source-over' : node.blend
      context.drawImage(layer.canvas, area.x, area.y)
    }
  } else drawAll(context, node.children, job)
  context.restore()
}

/** Makes each pixel as opaque as it is light (SVG 1.1, 14.4). */
function lightToAlpha(context: Context, { width, height }: Box): void {
  const image = context.getImageData(0, 0, width, height)
  const { data } = image
  for (let i = 0; i < data.length; i += 4)
    data[i + 3] = 0.2125 * data[i] + 0.7154 * data[i + 1] + 0.0721 * data[i + 2]
  context.putImageData(image, 0, 0)
}

/** The pixels that a group can paint, no more than there are; null where it paints none. */
function pixelsOf(node: Group, { a, b, c, d, e, f }: DOMMatrix, { widthPx, heightPx }: Job): Box | null {
  const [x0, y0, x1, y1] = extentOf({ ...node, transform: [a, b, c, d, e, f] })
  // A pixel more on either side, for edges that are smoothed.
  const [x, y] = [Math.max(0, Math.floor(x0) - 1), Math.max(0, Math.floor(y0) - 1)]
  const width = Math.min(widthPx, Math.ceil(x1) + 1) - x
  const height = Math.min(heightPx, Math.ceil(y1) + 1) - y
  return width > 0 && height > 0 ? { x, y, width, height } : null
}

function path2d({ outline, features }: Pick<Path, 'outline' | 'features'>, { surface, paths }: Job): Path2D {
  if (paths && outline.kind === 'rings') return cachedPath(paths, surface, outline, features?.offsets ?? null)
  const made = surface.createPath()
  trace(outline, made)
  return made
}

function clipTo(context: Context, outline: Outline, rule: CanvasFillRule, job: Job): void {
  context.clip(path2d({ outline, features: null }, job), rule)
}

function drawPath(context: Context, node: Path, job: Job): void {
  const shape = path2d(node, job)
  if (node.fill) {
    if (node.fill.type === 'hatch') drawHatch(context, node, node.fill, job)
    else {
      context.fillStyle = fillStyle(context, node.fill)
      context.fill(shape, node.fillRule)
    }
  }
  for (const line of node.strokes) {
    applyStroke(context, line)
    context.stroke(shape)
  }
}

/** So many circles make one path of a canvas; longer ones are filled ever more slowly. */
const dotsAtOnce = 500

function drawDots(context: Context, dots: Dots, fill: Paint | null, job: Job): void {
  if (fill?.type !== 'solid' || stampDots(context, dots, fill.colour, job)) return
  context.fillStyle = css(fill.colour)
  const { coords, r, place } = dots
  for (let from = 0; from < coords.length; from += 2 * dotsAtOnce) {
    context.beginPath()
    for (let i = from; i < Math.min(coords.length, from + 2 * dotsAtOnce); i += 2) {
      const [x, y] = [coords[i] * place.scale + place.dx, coords[i + 1] * place.scale + place.dy]
      if (!Number.isFinite(x) || !Number.isFinite(y)) continue
      context.moveTo(x + r, y)
      context.arc(x, y, r, 0, 2 * Math.PI)
    }
    context.fill()
  }
}

/**
 * Circles and curves are never drawn twice with one path: they go to the canvas without a path object of
 * their own.
 */
function drawAtOnce(context: Context, { outline, fill, fillRule, strokes }: Path, pen: Pen): void {
  context.beginPath()
  if (outline.kind === 'circle') context.arc(outline.x, outline.y, outline.r, 0, 2 * Math.PI)
  else trace(outline, context)
  if (fill && fill.type !== 'hatch') {
    if (pen.fill !== fill) context.fillStyle = fillStyle(context, fill)
    pen.fill = fill
    context.fill(fillRule)
  }
  for (const line of strokes) {
    if (pen.stroke !== line) applyStroke(context, line)
    pen.stroke = line
    context.stroke()
  }
}

function applyStroke(context: Context, line: Stroke): void {
  context.strokeStyle = css(line.colour)
  context.lineWidth = line.widthMm
  context.lineCap = line.cap
  context.lineJoin = line.join
  context.miterLimit = 4
  context.setLineDash(line.dashMm)
}

function fillStyle(context: Context, paint: Exclude<Paint, { type: 'hatch' }>): string | CanvasGradient {
  if (paint.type === 'solid') return css(paint.colour)
  const gradient =
    paint.type === 'linear'
      ? context.createLinearGradient(...paint.from, ...paint.to)
      : context.createRadialGradient(...paint.centre, 0, ...paint.centre, paint.radius)
  for (const { offset, colour } of paint.stops) gradient.addColorStop(offset, css(colour))
  return gradient
}

function drawHatch(context: Context, node: Path, paint: Extract<Paint, { type: 'hatch' }>, job: Job): void {
  const box = outlineBox(node.outline)
  if (!box) return
  const shape = path2d(node, job)
  if (paint.background) {
    context.fillStyle = css(paint.background)
    context.fill(shape, node.fillRule)
  }
  context.save()
  context.clip(shape, node.fillRule)
  applyStroke(context, {
    colour: paint.colour,
    widthMm: paint.widthMm,
    dashMm: [],
    cap: hatchCap(paint),
    join: 'miter',
  })
  context.beginPath()
  trace(hatchLines(box, paint), context)
  context.stroke()
  context.restore()
}

function drawText(context: Context, node: Text, job: Job): void {
  const glyphs = job.surface.createPath()
  traceGlyphs(job.fonts, node, glyphs)
  context.save()
  context.translate(node.x, node.y)
  context.rotate((node.rotationDeg * Math.PI) / 180)
  if (node.halo) {
    applyStroke(context, {
      colour: node.halo.colour,
      widthMm: 2 * node.halo.widthMm,
      dashMm: [],
      cap: 'round',
      join: 'round',
    })
    context.stroke(glyphs)
  }
  context.fillStyle = css(node.colour)
  context.fill(glyphs)
  context.restore()
}

function drawPicture(context: Context, node: Picture, job: Job): void {
  const image = job.pictures.get(node)
  if (!image) throw new Error('A picture of the scene was not decoded before drawing.')
  context.drawImage(image, node.box.x, node.box.y, node.box.width, node.box.height)
}

/** Rows of a raster beyond those that are seen, for what is smoothed between them. */
const rowsBeyond = 4
/** As many cells of a raster are put on the canvas at a time. */
const cellsAtOnce = 16e6

function drawRaster(context: Context, node: Raster, job: Job): void {
  const [first, last] = rowsSeen(node, context.getTransform(), job)
  const { columns, box } = node
  const rowMm = box.height / node.rows
  const step = Math.max(1, Math.floor(cellsAtOnce / columns))
  context.save()
  context.imageSmoothingEnabled = node.smooth
  for (let top = first; top < last; top += step) {
    const [from, to] = [Math.max(0, top - rowsBeyond), Math.min(node.rows, top + step + rowsBeyond)]
    const cells = job.surface.createCanvas(columns, to - from)
    const data = cells.context.createImageData(columns, to - from)
    data.data.set(node.rgba(from, to))
    cells.context.putImageData(data, 0, 0)
    context.save()
    // Bands meet where one cell ends and the next begins; each is smoothed with what lies beyond.
    if (last - first > step) {
      context.beginPath()
      context.rect(box.x, box.y + top * rowMm, box.width, Math.min(step, last - top) * rowMm)
      context.clip()
    }
    context.drawImage(cells.canvas, box.x, box.y + from * rowMm, box.width, (to - from) * rowMm)
    context.restore()
  }
  context.restore()
}

/** The rows of a raster of which something may lie on the canvas. */
function rowsSeen(
  { box, rows }: Raster,
  to: DOMMatrix,
  { widthPx, heightPx }: Job,
): [first: number, last: number] {
  const det = to.a * to.d - to.b * to.c
  if (!det) return [0, 0]
  const ys = [
    [0, 0],
    [widthPx, 0],
    [0, heightPx],
    [widthPx, heightPx],
  ].map(([x, y]) => (to.a * (y - to.f) - to.b * (x - to.e)) / det)
  const row = (y: number): number => ((y - box.y) / box.height) * rows
  return [
    Math.max(0, Math.floor(row(Math.min(...ys))) - rowsBeyond),
    Math.min(rows, Math.ceil(row(Math.max(...ys))) + rowsBeyond),
  ]
}

const written = new Map<string, string>()

function css(colour: string): string {
  const known = written.get(colour)
  if (known !== undefined) return known
  const { r, g, b, a } = channels(colour)
  const text = a === 1 ? colour : `rgba(${r}, ${g}, ${b}, ${a})`
  if (written.size > 2000) written.clear()
  written.set(colour, text)
  return text
}
