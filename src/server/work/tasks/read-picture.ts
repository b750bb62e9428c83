import { readFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { SaidError } from '@/core/said/said-error'
import type { PictureEntry } from '@/core/sheet/picture'
import { readDrawing } from '@/formats/drawing/read'
import { contentIdOf } from '../../content-id'
import type { TaskContext } from '../protocol'
import { writeWhole } from './packed'

/** A picture ready for its place in the store, with what was changed or left out, a sentence each. */
export type ReadPicture = { file: string; entry: PictureEntry; remarks: string[] }

const mostPixels = 150_000_000

/**
 * Looks at a picture that was sent. PNG and JPEG files stay as they are where they can go into any output as they
 * are; others are written anew, which is said.
 * @throws SaidError for what is no picture, or a damaged or too large one
 */
export async function readPicture(
  { file, fileName }: { file: string; fileName: string },
  { scratch }: TaskContext,
): Promise<ReadPicture> {
  const bytes = readFileSync(file)
  const made = isSvg(bytes) ? drawing(bytes, fileName) : await bitmap(bytes, fileName)
  const kept = path.join(scratch, 'picture')
  await writeWhole(kept, made.bytes)
  const { type, widthPx, heightPx, remarks } = made
  const name = fileName.replace(/\.[a-z0-9]+$/i, '').slice(0, 200) || 'Picture'
  return { file: kept, entry: { id: contentIdOf(made.bytes), name, type, widthPx, heightPx }, remarks }
}

type Made = Pick<PictureEntry, 'type' | 'widthPx' | 'heightPx'> & { bytes: Uint8Array; remarks: string[] }

const isSvg = (bytes: Buffer): boolean =>
  /^\uFEFF?\s*(<\?xml|<!--|<!DOCTYPE svg|<svg)/i.test(bytes.subarray(0, 400).toString('utf8'))

function drawing(bytes: Buffer, fileName: string): Made {
  const { box, lost } = readDrawing(bytes.toString('utf8'), fileName)
  return { type: 'image/svg+xml', widthPx: box.width, heightPx: box.height, bytes, remarks: lost }
}

const readable = new Set(['png', 'jpeg', 'webp', 'gif', 'tiff', 'avif', 'heif'])
const words: Record<string, string> = { webp: 'WebP', gif: 'GIF', tiff: 'TIFF', avif: 'AVIF', heif: 'HEIF' }

async function bitmap(bytes: Buffer, fileName: string): Promise<Made> {
  const image = sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error' })
  const about = await image.metadata().catch(() => {
    throw new SaidError(
      `${fileName} is no picture that can be read: PNG, JPEG, SVG, WebP, TIFF, GIF and AVIF files are.`,
    )
  })
  if (!readable.has(about.format ?? ''))
    throw new SaidError(
      `${fileName} is a ${(about.format ?? 'picture').toUpperCase()} file, which is not read here.`,
    )
  const remarks: string[] = []
  const { format, orientation = 1, space } = about
  if (format !== 'png' && format !== 'jpeg')
    remarks.push(`${words[format ?? ''] ?? 'The file'} was turned into PNG.`)
  if (orientation > 1) remarks.push('It was turned upright, as the camera says it was held.')
  if (space === 'cmyk') remarks.push('Its colours were turned from CMYK into sRGB.')
  if ((about.pages ?? 1) > 1) remarks.push(`Of its ${about.pages} pictures the first is shown.`)
  const asItIs =
    (format === 'png' || format === 'jpeg') &&
    orientation === 1 &&
    space !== 'cmyk' &&
    !about.isProgressive &&
    about.depth === 'uchar'
  if (asItIs) {
    // Damage shows only when the pixels themselves are looked at.
    await image
      .clone()
      .stats()
      .catch(() => damaged(fileName))
    return {
      type: format === 'png' ? 'image/png' : 'image/jpeg',
      widthPx: about.width,
      heightPx: about.height,
      bytes,
      remarks,
    }
  }
  const upright = image.rotate().toColourspace('srgb')
  const written =
    format === 'jpeg'
      ? upright.jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
      : upright.png({ compressionLevel: 9, progressive: false })
  const { data, info } = await written.toBuffer({ resolveWithObject: true }).catch(() => damaged(fileName))
  return {
    type: format === 'jpeg' ? 'image/jpeg' : 'image/png',
    widthPx: info.width,
    heightPx: info.height,
    bytes: data,
    remarks,
  }
}

function damaged(fileName: string): never {
  throw new SaidError(`${fileName} is damaged or has more than ${mostPixels / 1e6} million pixels.`)
}
