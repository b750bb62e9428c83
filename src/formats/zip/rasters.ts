import { bytesSource } from '../byte-source'
import { openGeotiff } from '../geotiff/open'
import type { Imported, ReadOptions, Reading } from '../import-error'
import { importRaster } from '../raster/import-raster'
import { mosaicOf } from '../raster/mosaic'
import { openPictureOfGround } from '../raster/picture'
import type { Beside, RasterFile } from '../raster/raster-file'
import { readWorldFile, worldNames } from '../raster/world-file'

const endingOf = (name: string): string => name.toLowerCase().replace(/^.*\./, '')

/**
 * Reads the pictures of the ground in an archive, each with what lies beside it under its name: a world file (.tfw,
 * .pgw, .jgw, .wld) and a reference system (.prj; one alone is that of all). Those that fit together are one mosaic,
 * others a dataset each.
 * @throws ImportError
 */
export async function readRasterArchive(
  files: Map<string, Uint8Array>,
  fileName: string,
  options: ReadOptions,
  reading: Reading,
): Promise<Imported[]> {
  const images = [...files.keys()].filter((name) => /\.(tiff?|png|jpe?g)$/i.test(name)).sort()
  const byName = new Map([...files.keys()].map((name) => [name.toLowerCase(), name]))
  const text = (name: string): string | null => {
    const found = byName.get(name.toLowerCase())
    const bytes = found && files.get(found)
    return bytes ? new TextDecoder().decode(bytes) : null
  }
  const systems = [...files.keys()].filter((name) => endingOf(name) === 'prj')
  const opened: RasterFile[] = []
  for (const name of images) {
    const world = worldNames(name).find((one) => byName.has(one.toLowerCase()))
    const stem = name.replace(/\.[^.]*$/, '')
    const own = text(`${stem}.prj`) ?? (systems.length === 1 ? text(systems[0]) : null)
    const beside: Beside = {
      transform: world ? readWorldFile(text(world) ?? '', world) : null,
      system: options.crs ?? own,
    }
    const bytes = files.get(name) as Uint8Array
    opened.push(
      /\.tiff?$/i.test(name)
        ? await openGeotiff(bytesSource(bytes), name, options, beside)
        : await openPictureOfGround(bytes, name, beside, options),
    )
  }
  const mosaic = mosaicOf(opened, fileName)
  if (mosaic) {
    const one = await importRaster(mosaic, fileName, reading)
    return [{ ...one, remarks: [mosaicWords(opened), ...(one.remarks ?? [])] }]
  }
  const datasets: Imported[] = []
  for (const file of opened) datasets.push(await importRaster(file, file.name, reading))
  if (datasets.length > 1)
    datasets[0].remarks = [
      'The rasters in this archive do not lie beside each other on one grid: each is a dataset of its own.',
      ...(datasets[0].remarks ?? []),
    ]
  return datasets
}

function mosaicWords(files: RasterFile[]): string {
  const names = files.slice(0, 6).map(({ name }) => name)
  const more = files.length - names.length
  return `${files.length} files are one mosaic: ${names.join(', ')}${more > 0 ? ` and ${more} more` : ''}.`
}
