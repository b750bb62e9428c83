import { unzipSync } from 'fflate'
import { ImportError } from '../import-error'

/** As much may come out of one archive; a bomb holds far more than it weighs. */
const maxUnpacked = 1024 * 1024 * 1024
const maxRatio = 400
const maxFiles = 2000

/**
 * The files of an archive by their names without folders, so that a path leads nowhere. Sizes are checked
 * before anything is unpacked.
 * @throws ImportError
 */
export function unzip(
  bytes: Uint8Array,
  fileName: string,
  wanted: (name: string) => boolean = () => true,
): Map<string, Uint8Array> {
  let total = 0
  let files = 0
  try {
    const unpacked = unzipSync(bytes, {
      filter({ name, originalSize, size }) {
        if (++files > maxFiles) throw new ImportError(`${fileName} holds more than ${maxFiles} files.`)
        if (!wanted(baseName(name))) return false
        total += originalSize
        if (total > maxUnpacked || (originalSize > 10 * 1024 * 1024 && originalSize > size * maxRatio))
          throw new ImportError(
            `${fileName} would unpack to more than can be taken in. Unpack it yourself and bring in the files you need.`,
          )
        return true
      },
    })
    return new Map(Object.entries(unpacked).map(([name, content]) => [baseName(name), content]))
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(`${fileName} is not a complete zip archive.`)
  }
}

const baseName = (path: string): string => path.replace(/^.*[\\/]/, '')
