import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'

export type Pixels = { widthPx: number; heightPx: number; rgba: Buffer }

type Size = { widthPx: number; heightPx: number }

/**
 * Draws the first page of a PDF with poppler at a size in pixels. Asked for a resolution instead, poppler
 * rounds the page up to whole pixels, and everything on it would lie a pixel lower.
 */
export function drawPdf(pdf: Uint8Array, { widthPx, heightPx }: Size): Promise<Pixels> {
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-pdf-'))
  try {
    writeFileSync(path.join(folder, 'a.pdf'), pdf)
    execFileSync('pdftoppm', [
      '-scale-to-x',
      String(widthPx),
      '-scale-to-y',
      String(heightPx),
      '-png',
      '-singlefile',
      path.join(folder, 'a.pdf'),
      path.join(folder, 'a'),
    ])
    return decode(readFileSync(path.join(folder, 'a.png')))
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

/** Mean absolute difference of the colour channels as a share of their range. */
export function meanDifference(a: Pixels, b: Pixels): number {
  if (a.widthPx !== b.widthPx || a.heightPx !== b.heightPx)
    throw new Error(`Sizes differ: ${a.widthPx} × ${a.heightPx} and ${b.widthPx} × ${b.heightPx}.`)
  const [width, height] = [a.widthPx, a.heightPx]
  let sum = 0
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++)
        sum += Math.abs(a.rgba[4 * (y * a.widthPx + x) + c] - b.rgba[4 * (y * b.widthPx + x) + c])
  return sum / (255 * 3 * width * height)
}
