/**
 * What the canvas renderer needs of its surroundings: a browser worker and Node give it different canvases.
 */
export type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D
export type Drawable = CanvasImageSource

export type Surface = {
  createCanvas(widthPx: number, heightPx: number): { canvas: Drawable; context: Context }
  decode(bytes: Uint8Array, mime: string): Promise<Drawable>
  createPath(): Path2D
}

/** The surface of a browser, in the page or in a worker. */
export const browserSurface: Surface = {
  createCanvas(widthPx, heightPx) {
    const canvas = new OffscreenCanvas(widthPx, heightPx)
    const context = canvas.getContext('2d')
    if (!context) throw new Error('This browser gives no drawing context.')
    return { canvas, context }
  },
  decode: (bytes, mime) => createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mime })),
  createPath: () => new Path2D(),
}
