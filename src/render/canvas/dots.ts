import type { Dots } from '@/core/scene/outline'
import { channels, type Colour } from '@/core/scene/paint'
import type { Context, Surface } from './surface'

/** Larger discs are as fast as circles. */
const largestStamp = 12
/** Fewer are not worth a picture of their own. */
const fewest = 300
/** A dot stands on one of so many places within a pixel, each way. */
const places = 8
/** Pixels are covered by so many parts, each way. */
const parts = 11

/** How much of each pixel about a disc is covered, for one of its places in a pixel. */
type Stamp = { size: number; cover: Uint8Array }

/**
 * Draws many discs of one size and colour: each is stamped into a picture of what is covered, which is then laid over
 * what is there. False where they have to be drawn as circles: few, large, or turned by the transform.
 */
export function stampDots(
  context: Context,
  dots: Dots,
  colour: Colour,
  { surface, widthPx, heightPx }: { surface: Surface; widthPx: number; heightPx: number },
): boolean {
  const { a, b, c, d, e, f } = context.getTransform()
  const radius = dots.r * a
  const count = dots.coords.length / 2
  if (count < fewest || b !== 0 || c !== 0 || a !== d || !(a > 0) || radius > largestStamp) return false
  const { scale, dx, dy } = dots.place
  const [kx, ky] = [scale * a, scale * d]
  const [sx, sy] = [dx * a + e, dy * d + f]
  const stamps = stampsOf(radius)
  const half = (stamps[0].size - 1) / 2
  const box = boxOf(dots, { kx, ky, sx, sy, room: half + 1, widthPx, heightPx })
  if (!box) return true
  const cover = new Uint8Array(box.width * box.height)
  for (let i = 0; i < 2 * count; i += 2) {
    const x = dots.coords[i] * kx + sx - box.x
    const y = dots.coords[i + 1] * ky + sy - box.y
    // What is NaN is nowhere.
    if (!(x > -half && y > -half && x < box.width + half && y < box.height + half)) continue
    const [px, py] = [Math.floor(x), Math.floor(y)]
    const at = Math.floor((y - py) * places) * places + Math.floor((x - px) * places)
    put(stamps[at], [px - half, py - half], cover, box)
  }
  const layer = surface.createCanvas(box.width, box.height)
  const image = layer.context.createImageData(box.width, box.height)
  const { r, g, b: blue, a: alpha } = channels(colour)
  for (let i = 0; i < cover.length; i++) {
    if (!cover[i]) continue
    image.data[4 * i] = r
    image.data[4 * i + 1] = g
    image.data[4 * i + 2] = blue
    image.data[4 * i + 3] = Math.round(cover[i] * alpha)
  }
  layer.context.putImageData(image, 0, 0)
  context.save()
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.drawImage(layer.canvas, box.x, box.y)
  context.restore()
  return true
}

type Pixels = { x: number; y: number; width: number; height: number }

/** Lays a stamp over what is covered already. */
function put({ size, cover }: Stamp, [left, top]: [number, number], into: Uint8Array, box: Pixels): void {
  const [c0, c1] = [Math.max(0, -left), Math.min(size, box.width - left)]
  const [r0, r1] = [Math.max(0, -top), Math.min(size, box.height - top)]
  for (let r = r0; r < r1; r++) {
    const row = (top + r) * box.width + left
    for (let c = c0; c < c1; c++) {
      const more = cover[r * size + c]
      if (!more) continue
      const had = into[row + c]
      into[row + c] = had + Math.round(((255 - had) * more) / 255)
    }
  }
}

/** The pixels that dots can cover, of those that there are; null for none. */
function boxOf(
  { coords }: Dots,
  view: { kx: number; ky: number; sx: number; sy: number; room: number; widthPx: number; heightPx: number },
): Pixels | null {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < coords.length; i += 2) {
    const x = coords[i] * view.kx + view.sx
    const y = coords[i + 1] * view.ky + view.sy
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
  }
  const [left, top] = [Math.max(0, Math.floor(x0 - view.room)), Math.max(0, Math.floor(y0 - view.room))]
  const width = Math.min(view.widthPx, Math.ceil(x1 + view.room)) - left
  const height = Math.min(view.heightPx, Math.ceil(y1 + view.room)) - top
  return width > 0 && height > 0 ? { x: left, y: top, width, height } : null
}

let known: { radius: number; stamps: Stamp[] } | null = null

/** The stamps of a radius in pixels, row by row of their places in a pixel. */
function stampsOf(radius: number): Stamp[] {
  if (known?.radius === radius) return known.stamps
  const half = Math.ceil(radius) + 1
  const size = 2 * half + 1
  const stamps = Array.from({ length: places * places }, (_, at): Stamp => {
    const cx = half + ((at % places) + 0.5) / places
    const cy = half + (Math.floor(at / places) + 0.5) / places
    const cover = new Uint8Array(size * size)
    for (let p = 0; p < size * size; p++) {
      let inside = 0
      for (let q = 0; q < parts * parts; q++) {
        const x = (p % size) + ((q % parts) + 0.5) / parts
        const y = Math.floor(p / size) + (Math.floor(q / parts) + 0.5) / parts
        if ((x - cx) ** 2 + (y - cy) ** 2 <= radius * radius) inside++
      }
      cover[p] = Math.round((255 * inside) / (parts * parts))
    }
    return { size, cover }
  })
  known = { radius, stamps }
  return stamps
}
