import { ImportError } from '../import-error'
import { limits } from '../limits'

const headBytes = 100
const recordHead = 8
const knownTypes = new Set([0, 1, 3, 5, 8, 11, 13, 15, 18, 21, 23, 25, 28])
/** Types whose records begin with a box, then count parts, then places. */
const inParts = new Set([3, 5, 13, 15, 23, 25])
const inPlaces = new Set([8, 18, 28])

/**
 * Walks through the records of a .shp (shapefile technical description, 1998) and returns how many there
 * are. Lengths and counts are checked against what is there, so that reading it can rely on them.
 * @throws ImportError naming the shape that is not complete
 */
export function checkShp(bytes: Uint8Array, name: string): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < headBytes || view.getInt32(0, false) !== 9994)
    throw new ImportError(`${name} is not a shapefile: its header is not complete.`)
  const type = view.getInt32(32, true)
  if (!knownTypes.has(type))
    throw new ImportError(`${name} holds shapes of the type ${type}, which cannot be read.`)
  // Bytes behind the length that the header gives are not the file's.
  const end = Math.min(bytes.length, Math.max(headBytes, view.getInt32(24, false) * 2))
  let [at, count, places] = [headBytes, 0, 0]
  while (end - at > recordHead) {
    const length = view.getInt32(at + 4, false) * 2
    const broken = (what: string) =>
      new ImportError(
        `${name} is damaged at shape ${count + 1}: ${what}. Copy the file again from where it came.`,
      )
    if (length < 4) throw broken('it has no content')
    if (at + recordHead + length > bytes.length) throw broken('the file breaks off')
    const own = view.getInt32(at + recordHead, true)
    if (own !== 0 && own !== type) throw broken(`it is of the type ${own}, not ${type} as all others`)
    places += checkCounts(view, { at: at + recordHead, length, type: own }, broken)
    if (places > limits.vertices) throw broken(`up to it there are more than ${limits.vertices} vertices`)
    at += recordHead + length
    count++
  }
  if (bytes.length < view.getInt32(24, false) * 2)
    throw new ImportError(
      `${name} breaks off after shape ${count}: its header promises more. Copy the file again from where it came.`,
    )
  return count
}

/** Checks the counts of a record against its length; returns how many places it has. */
function checkCounts(
  view: DataView,
  { at, length, type }: { at: number; length: number; type: number },
  broken: (what: string) => ImportError,
): number {
  if (type === 0) return 0
  if (!inParts.has(type) && !inPlaces.has(type)) {
    if (length < 20) throw broken('its coordinates are not complete')
    return 1
  }
  if (length < (inParts.has(type) ? 44 : 40)) throw broken('its counts are not complete')
  const parts = inParts.has(type) ? view.getInt32(at + 36, true) : 0
  const places = view.getInt32(at + (inParts.has(type) ? 40 : 36), true)
  const needed = (inParts.has(type) ? 44 : 40) + 4 * parts + 16 * places
  if (parts < 0 || places < 0 || needed > length) throw broken('it counts more places than there are in it')
  let before = 0
  for (let part = 0; part < parts; part++) {
    const start = view.getInt32(at + 44 + 4 * part, true)
    if (start < before || start > places) throw broken('its parts are out of order')
    before = start
  }
  return places
}
