import { ImportError, type Imported, type ReadOptions, type Reading } from '../import-error'
import { besideEndings, imageEndings } from '../raster/world-file'
import { unzip } from './unzip'

const ofRasters = new RegExp(`\\.(${[...imageEndings, ...besideEndings].join('|')})$`, 'i')
const image = new RegExp(`\\.(${imageEndings.join('|')})$`, 'i')

/**
 * Reads what an archive holds: shapefiles, or pictures of the ground with what lies beside them.
 * @throws ImportError
 */
export async function readZip(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
  reading: Reading,
): Promise<Imported[]> {
  const names: string[] = []
  await unzip(bytes, fileName, (name) => {
    names.push(name)
    return false
  })
  if (names.some((name) => /\.shp$/i.test(name)))
    return (await import('../shapefile/read')).readShapefile(bytes, fileName, options)
  if (!names.some((name) => image.test(name)))
    throw new ImportError(`${fileName} holds no shapefile (.shp) and no raster (${imageEndings.join(', ')}).`)
  const { readRasterArchive } = await import('./rasters')
  const files = await unzip(bytes, fileName, (name) => ofRasters.test(name))
  const read = await readRasterArchive(files, fileName, options, reading)
  return read.map((one) => ({ ...one, format: 'Rasters' }))
}
