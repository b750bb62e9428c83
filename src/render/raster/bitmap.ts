import { SaidError } from '@/core/said/said-error'
import { createCanvas, loadImage, Path2D } from '@napi-rs/canvas'
import { bitmapRefused, bitmapSize } from '@/core/print/bitmap-size'
import type { Picture, Scene } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import { pixelsPerMm } from '@/core/scene/units'
import { decodePictures, drawScene } from '../canvas/draw'
import type { Context, Drawable, Surface } from '../canvas/surface'
import { createPng } from './png'

// The library's canvas has the calls of the browser's that are used here, but not all of its type.
/** The surface of Node: the same drawing calls as in a browser. */
export const nodeSurface: Surface = {
  createCanvas(widthPx, heightPx) {
    const canvas = createCanvas(widthPx, heightPx)
    return { canvas: canvas as unknown as Drawable, context: canvas.getContext('2d') as unknown as Context }
  },
  decode: async (bytes) => (await loadImage(Buffer.from(bytes))) as unknown as Drawable,
  createPath: () => new Path2D() as unknown as globalThis.Path2D,
}

/** As many pixels are drawn at a time: 96 MB. */
const bandPixels = 24e6

type Size = { widthPx: number; heightPx: number }

function sizeOf(scene: Scene, dpi: number): Size {
  const refused = bitmapRefused(scene, { format: 'png', dpi })
  if (refused) throw new SaidError(refused)
  return bitmapSize(scene, dpi)
}

/** Some rows of a scene as RGBA pixels. */
function rowsOf(
  scene: Scene,
  { fonts, pictures, dpi }: { fonts: FontBook; pictures: Map<Picture, Drawable>; dpi: number },
  { top, widthPx, heightPx }: Size & { top: number },
): Buffer {
  const canvas = createCanvas(widthPx, heightPx)
  const context = canvas.getContext('2d')
  drawScene(context as unknown as Context, scene, {
    surface: nodeSurface,
    fonts,
    pictures,
    pixelsPerMm: pixelsPerMm(dpi),
    offsetPx: [0, -top],
    widthPx,
    heightPx,
  })
  const { data } = context.getImageData(0, 0, widthPx, heightPx)
  return Buffer.from(data.buffer, data.byteOffset, data.byteLength)
}

/** A scene as RGBA pixels at `dpi` dots per inch. */
export async function renderPixels(
  scene: Scene,
  fonts: FontBook,
  dpi: number,
): Promise<Size & { rgba: Buffer }> {
  const size = sizeOf(scene, dpi)
  const pictures = await decodePictures(scene, nodeSurface)
  return { ...size, rgba: rowsOf(scene, { fonts, pictures, dpi }, { ...size, top: 0 }) }
}

/**
 * A scene as a PNG with its resolution written into the file, drawn and packed a band of rows at a time, so that
 * a wall map takes no more memory than a page.
 */
export async function writePng(
  scene: Scene,
  fonts: FontBook,
  dpi: number,
  { mostPixels = bandPixels }: { mostPixels?: number } = {},
): Promise<Uint8Array> {
  const size = sizeOf(scene, dpi)
  const pictures = await decodePictures(scene, nodeSurface)
  const png = createPng({ ...size, dpi })
  const step = Math.max(1, Math.floor(mostPixels / size.widthPx))
  for (let top = 0; top < size.heightPx; top += step) {
    const heightPx = Math.min(step, size.heightPx - top)
    await png.write(rowsOf(scene, { fonts, pictures, dpi }, { widthPx: size.widthPx, heightPx, top }))
  }
  return png.end()
}
