import type { GeoTIFFImage } from 'geotiff'
import type { Raster } from '@/core/data/raster'
import type { ValuesAre } from '@/core/data/reading'

/** Windows that are looked into, along each side, and cells along a side of one. */
const [looked, windowSide] = [5, 96]
/** More different values than this are amounts, or shades of a picture. */
const mostKinds = 40
/** Amounts change by ones from cell to cell, kinds by anything: below this share of steps by one. */
const mostSteady = 0.97

/**
 * Whether the values of an image name kinds of ground, with the colours that it gives them: as a person says, or else
 * found out. Null for amounts and pictures.
 */
export async function kindsIn(
  image: GeoTIFFImage,
  { photometric, wanted }: { photometric: number | undefined; wanted: ValuesAre | undefined },
): Promise<Pick<Raster, 'ofKinds' | 'palette'> | null> {
  if (image.getSamplesPerPixel() !== 1) return null
  const palette = photometric === 3 ? await paletteOf(image) : null
  const are = wanted ? wanted === 'kinds' : await nameKinds(image, palette !== null)
  return are ? { ofKinds: true, ...(palette && { palette }) } : null
}

/**
 * Whether whole numbers name kinds: one band of up to 16 bits with few different values that do not run on from cell to
 * cell as heights do. Some windows are looked into, not the whole file.
 */
async function nameKinds(image: GeoTIFFImage, inPalette: boolean): Promise<boolean> {
  const isWhole = image.getSampleFormat() === 1 || image.getSampleFormat() === 2
  if (!isWhole || image.getBitsPerSample() > 16) return false
  const [columns, rows] = [image.getWidth(), image.getHeight()]
  const empty = image.getGDALNoData()
  const found = new Set<number>()
  let [changes, steady] = [0, 0]
  for (let k = 0; k < looked * looked; k++) {
    const left = place(k % looked, columns)
    const top = place(Math.floor(k / looked), rows)
    const [right, bottom] = [Math.min(columns, left + windowSide), Math.min(rows, top + windowSide)]
    const read = (await image
      .readRasters({ window: [left, top, right, bottom], interleave: false })
      .catch(() => null)) as unknown as ArrayLike<number>[] | null
    if (!read) return false
    const wide = right - left
    for (let i = 0; i < wide * (bottom - top); i++) {
      const value = read[0][i]
      if (value === empty) continue
      found.add(value)
      if (found.size > mostKinds) return false
      const before = i % wide ? read[0][i - 1] : value
      if (before === empty || before === value) continue
      changes++
      if (Math.abs(value - before) === 1) steady++
    }
  }
  return found.size > 0 && (inPalette || found.size <= 6 || steady <= mostSteady * changes)
}

const place = (k: number, cells: number): number =>
  Math.max(0, Math.min(cells - windowSide, Math.round(((k + 0.5) / looked) * cells - windowSide / 2)))

/** The colours of an image's values (TIFF 6.0, ColorMap: all reds, then all greens, then all blues, of 16 bits). */
async function paletteOf(image: GeoTIFFImage): Promise<Uint32Array | null> {
  const map = (await image.getFileDirectory().loadValue('ColorMap')) as ArrayLike<number> | undefined
  if (!map || map.length % 3) return null
  const count = map.length / 3
  const byte = (at: number): number => map[at] >> 8
  return Uint32Array.from(
    { length: count },
    (_, i) => (byte(i) << 16) | (byte(count + i) << 8) | byte(2 * count + i),
  )
}
