import sharp from 'sharp'
import { ImportError, UnknownSystemError, type ReadOptions } from '../import-error'
import { systemOf, type Beside, type RasterFile } from './raster-file'

const mostPixels = 400_000_000

/**
 * Opens a PNG or JPEG picture of the ground, whose place lies beside it: heights in one band of 8 or 16 bits, or
 * colours in three. What is clear is missing.
 * @throws ImportError; UnknownSystemError where nothing says its reference system
 */
export async function openPictureOfGround(
  bytes: Uint8Array,
  fileName: string,
  { transform, system }: Beside,
  { values }: Pick<ReadOptions, 'values'> = {},
): Promise<RasterFile> {
  if (!transform)
    throw new ImportError(
      `${fileName} does not say where on the ground it lies. Bring it in together with its world file.`,
    )
  if (!system)
    throw new UnknownSystemError(
      `${fileName} does not say its reference system. Choose the one that it is in.`,
    )
  const image = sharp(bytes, { limitInputPixels: mostPixels })
  const head = await image.metadata().catch(() => null)
  if (!head) throw new ImportError(`${fileName} cannot be read as a picture: it is damaged.`)
  const deep = head.depth === 'ushort'
  const grey = head.space === 'b-w' || head.space === 'grey16'
  const shown = deep ? image.toColourspace(grey ? 'grey16' : 'rgb16') : image
  const read = await shown
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
    .catch(() => null)
  if (!read) throw new ImportError(`${fileName} is damaged, or larger than can be taken in as a picture.`)
  const { data, info } = read
  const { width: columns, height: rows, channels } = info
  const cells = deep ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data
  const clear = channels === 2 || channels === 4 ? channels - 1 : -1
  const bands = clear >= 0 ? channels - 1 : channels
  return {
    ...{ name: fileName, columns, rows, bands, transform },
    system: systemOf(system),
    rowsInBlock: 1,
    ...(bands === 1 && {
      valuesMayBe: ['amounts', 'kinds'],
      ofKinds: values === 'kinds',
    }),
    async read(top, bottom) {
      const made = Array.from({ length: bands }, () => new Float32Array(columns * (bottom - top)))
      for (let i = 0, at = top * columns * channels; i < columns * (bottom - top); i++, at += channels)
        for (let b = 0; b < bands; b++)
          made[b][i] = clear >= 0 && cells[at + clear] === 0 ? NaN : cells[at + b]
      return made
    },
  }
}
