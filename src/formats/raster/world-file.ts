import { ImportError } from '../import-error'
import type { Transform } from './raster-file'

/**
 * A world file: six numbers, a line each, of which the first four are the steps of a column and a row in x and y, and
 * the last two the middle of the upper left cell.
 * @throws ImportError
 */
export function readWorldFile(text: string, fileName: string): Transform {
  const numbers = text
    .trim()
    .split(/\s+/)
    .map((word) => Number(word.replace(',', '.')))
  if (numbers.length < 6 || numbers.slice(0, 6).some((n) => !Number.isFinite(n)))
    throw new ImportError(`${fileName} is no world file: it should hold six numbers, a line each.`)
  const [acrossX, acrossY, downX, downY, x, y] = numbers
  if (acrossX * downY - acrossY * downX === 0)
    throw new ImportError(`${fileName} gives cells without width or height.`)
  return [x - (acrossX + downX) / 2, acrossX, downX, y - (acrossY + downY) / 2, acrossY, downY]
}

/** Endings of world files by those of the pictures that they go with. */
const endings: Record<string, string[]> = {
  tif: ['tfw', 'tifw'],
  tiff: ['tfw', 'tiffw'],
  png: ['pgw', 'pngw'],
  jpg: ['jgw', 'jpgw'],
  jpeg: ['jgw', 'jpegw'],
}
/** Endings of pictures of the ground. */
export const imageEndings = Object.keys(endings)
/** Endings of what lies beside them. */
export const besideEndings = [...new Set(Object.values(endings).flat()), 'wld', 'prj']

/** What the world file of a picture may be called. */
export function worldNames(imageName: string): string[] {
  const stem = imageName.replace(/\.[^.]*$/, '')
  const ending = imageName.slice(stem.length + 1).toLowerCase()
  return [...(endings[ending] ?? []), 'wld'].flatMap((one) => [`${stem}.${one}`, `${imageName}.${one}`])
}
