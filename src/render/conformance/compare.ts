import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'

export type Pixels = { widthPx: number; heightPx: number; rgba: Buffer }

type Size = { widthPx: number; heightPx: number }

const finer = 3

/**
 * Draws the first page of a PDF with poppler at a size in pixels. Asked for a resolution instead, poppler
 * rounds the page up to whole pixels, and everything on it would lie a pixel lower. It also moves thin upright
 * lines to whole pixels; drawn finer and brought down, they stay where they are.
 */
export async function drawPdf(pdf: Uint8Array, { widthPx, heightPx }: Size): Promise<Pixels> {
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-pdf-'))
  try {
    writeFileSync(path.join(folder, 'a.pdf'), pdf)
    execFileSync('pdftoppm', [
      '-scale-to-x',
      String(finer * widthPx),
      '-scale-to-y',
      String(finer * heightPx),
      '-png',
      '-singlefile',
      path.join(folder, 'a.pdf'),
      path.join(folder, 'a'),
    ])
    const fine = readFileSync(path.join(folder, 'a.png'))
    return decode(
      await sharp(fine, { unlimited: true }).resize(widthPx, heightPx, { kernel: 'mitchell' }).toBuffer(),
    )
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** Draws an SVG whose size is in millimetres with librsvg, which sharp carries, at a size in pixels. */
export function drawSvg(svg: string, { widthPx, heightPx }: Size): Promise<Pixels> {
  const inPixels = svg.replace(
    / (width|height)="[\d.]+mm"/g,
    (_, side) => ` ${side}="${side === 'width' ? widthPx : heightPx}"`,
  )
  return decode(Buffer.from(inPixels))
}

export async function decode(bytes: Buffer): Promise<Pixels> {
  const { data, info } = await sharp(bytes, { unlimited: true })
    .flatten({ background: '#ffffff' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { widthPx: info.width, heightPx: info.height, rgba: data }
}

/** The side of the squares in which pictures are compared, in pixels. */
const tilePx = 8

export type Tile = {
  /** Mean difference within the square as a share of the range of a channel, 0 to 1. */
  difference: number
  /** Its top left corner, in pixels. */
  x: number
  y: number
}

/**
 * The square of 8 × 8 pixels in which two pictures differ most. A word or a line that is missing fills whole
 * squares, however large the page is. Edges that lie up to a pixel apart, as between two programs that smooth
 * them each in its own way, do not count: a pixel is compared with the most like of the nine around its place.
 */
export function worstTile(a: Pixels, b: Pixels): Tile {
  if (a.widthPx !== b.widthPx || a.heightPx !== b.heightPx)
    throw new Error(`Sizes differ: ${a.widthPx} × ${a.heightPx} and ${b.widthPx} × ${b.heightPx}.`)
  let worst: Tile = { difference: 0, x: 0, y: 0 }
  for (let y = 0; y < a.heightPx; y += tilePx)
    for (let x = 0; x < a.widthPx; x += tilePx) {
      const difference = tileDifference(a, b, x, y)
      if (difference > worst.difference) worst = { difference, x, y }
    }
  return worst
}

function tileDifference(a: Pixels, b: Pixels, x0: number, y0: number): number {
  const [x1, y1] = [Math.min(a.widthPx, x0 + tilePx), Math.min(a.heightPx, y0 + tilePx)]
  if (isSame(a, b, [x0, y0, x1, y1])) return 0
  let sum = 0
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) sum += Math.max(apart(a, b, x, y), apart(b, a, x, y))
  return sum / (255 * tilePx * tilePx)
}

function isSame(a: Pixels, b: Pixels, [x0, y0, x1, y1]: [number, number, number, number]): boolean {
  for (let y = y0; y < y1; y++) {
    const [from, to] = [4 * (y * a.widthPx + x0), 4 * (y * a.widthPx + x1)]
    if (a.rgba.compare(b.rgba, from, to, from, to) !== 0) return false
  }
  return true
}

/** How far a pixel is from the most like of those around its place in another picture: mean of the channels. */
function apart(a: Pixels, b: Pixels, x: number, y: number): number {
  const at = 4 * (y * a.widthPx + x)
  let least = Infinity
  for (let v = Math.max(0, y - 1); v <= Math.min(b.heightPx - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(b.widthPx - 1, x + 1); u++) {
      const there = 4 * (v * b.widthPx + u)
      let sum = 0
      for (let c = 0; c < 3; c++) sum += Math.abs(a.rgba[at + c] - b.rgba[there + c])
      least = Math.min(least, sum / 3)
    }
  return least
}
