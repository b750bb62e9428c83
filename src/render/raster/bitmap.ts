import { createCanvas, loadImage, Path2D } from '@napi-rs/canvas'
import sharp from 'sharp'
import type { Scene } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import { decodePictures, drawScene } from '../canvas/draw'
import type { Context, Drawable, Surface } from '../canvas/surface'

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

/** The largest bitmap that is made, in pixels: an A0 sheet at 300 dpi has 140 million. */
export const maxPixels = 400e6

/** A scene as RGBA pixels at `dpi` dots per inch. */
export async function renderPixels(
  scene: Scene,
  fonts: FontBook,
  dpi: number,
): Promise<{ widthPx: number; heightPx: number; rgba: Buffer }> {
  const pixelsPerMm = dpi / 25.4
  const widthPx = Math.max(1, Math.round(scene.widthMm * pixelsPerMm))
  const heightPx = Math.max(1, Math.round(scene.heightMm * pixelsPerMm))
  if (widthPx * heightPx > maxPixels)
    throw new RangeError(
      `${widthPx} × ${heightPx} pixels are more than can be drawn. Choose fewer dots per inch.`,
    )
  const canvas = createCanvas(widthPx, heightPx)
  const context = canvas.getContext('2d') as unknown as Context
  const pictures = await decodePictures(scene, nodeSurface)
  drawScene(context, scene, { surface: nodeSurface, fonts, pictures, pixelsPerMm, widthPx, heightPx })
  const { data } = canvas.getContext('2d').getImageData(0, 0, widthPx, heightPx)
  return { widthPx, heightPx, rgba: Buffer.from(data.buffer, data.byteOffset, data.byteLength) }
}

/** A scene as a PNG with its resolution written into the file. */
export async function writePng(scene: Scene, fonts: FontBook, dpi: number): Promise<Uint8Array> {
  const { widthPx, heightPx, rgba } = await renderPixels(scene, fonts, dpi)
  return sharp(rgba, { raw: { width: widthPx, height: heightPx, channels: 4 }, limitInputPixels: maxPixels })
    .withMetadata({ density: dpi })
    .png()
    .toBuffer()
}
