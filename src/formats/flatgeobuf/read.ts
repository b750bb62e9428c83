import { ByteBuffer } from 'flatbuffers'
import { Feature as StoredFeature } from 'flatgeobuf/lib/mjs/flat-geobuf/feature.js'
import { Header as StoredHeader } from 'flatgeobuf/lib/mjs/flat-geobuf/header.js'
import type { Geometry as StoredGeometry } from 'flatgeobuf/lib/mjs/flat-geobuf/geometry.js'
import { fromGeometry } from 'flatgeobuf/lib/mjs/geojson/geometry.js'
import { fromByteBuffer, type HeaderMeta } from 'flatgeobuf/lib/mjs/header-meta.js'
import type { Geometry } from 'geojson'
import { fieldTypeOf, readAttributes } from './attributes'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { limits } from '../limits'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'

const magic = [0x66, 0x67, 0x62]
const magicBytes = 8
const sizeBytes = 4
/** A node of the index: a box and where its features begin. */
const nodeBytes = 40
const mostNesting = 8

/**
 * Reads FlatGeobuf, version 3. Every feature is taken out of the file by itself, and what it counts is compared
 * with how long it is, so that a damaged one leads nowhere.
 * @throws ImportError
 */
export async function readFlatgeobuf(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const { header, start } = headerOf(bytes, fileName)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const rows: Row[] = []
  for (let at = start; at < bytes.length;) {
    const damaged = (what: string) =>
      new ImportError(`${fileName} is damaged: ${what} in feature ${rows.length + 1}.`)
    if (at + sizeBytes > bytes.length) throw damaged('it breaks off')
    const length = view.getUint32(at, true)
    const end = at + sizeBytes + length
    if (length < sizeBytes || end > bytes.length) throw damaged('it breaks off')
    if (rows.length >= limits.rows)
      throw new ImportError(`${fileName} has more than ${limits.rows} features.`)
    try {
      rows.push(rowOf(Uint8Array.from(bytes.subarray(at, end)), header))
    } catch {
      throw damaged('shape and attributes do not fit its length')
    }
    at = end
  }
  // Files written in one go do not know how many features they hold; they say 0.
  if (header.featuresCount > 0 && rows.length !== header.featuresCount)
    throw new ImportError(
      `${fileName} is damaged: it says that it holds ${header.featuresCount} features, but there are ${rows.length}.`,
    )
  if (!rows.length) throw new ImportError(`${fileName} holds no features.`)
  const crs = options.crs ?? (header.crs?.code ? `EPSG:${header.crs.code}` : null)
  return vectorDatasets(rows, nameFromFile(fileName), fileName, {
    crs,
    guessed: { crs: crs ?? undefined },
    types: Object.fromEntries((header.columns ?? []).map(({ name, type }) => [name, fieldTypeOf(type)])),
  })
}

/** The header, and where the features begin behind it and the index. */
function headerOf(bytes: Uint8Array, fileName: string): { header: HeaderMeta; start: number } {
  if (!magic.every((byte, i) => bytes[i] === byte))
    throw new ImportError(`${fileName} cannot be read as FlatGeobuf: it does not begin as one.`)
  const damaged = (what: string) => new ImportError(`${fileName} is damaged: ${what}.`)
  if (bytes.length < magicBytes + sizeBytes) throw damaged('it breaks off within its header')
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(magicBytes, true)
  const behind = magicBytes + sizeBytes + length
  if (behind > bytes.length) throw damaged('it breaks off within its header')
  let header: HeaderMeta
  try {
    const stored = new ByteBuffer(Uint8Array.from(bytes.subarray(magicBytes, behind)))
    // Counts that cannot be true would be counted through, one by one.
    if (StoredHeader.getSizePrefixedRootAsHeader(stored).columnsLength() * 4 > length)
      throw new RangeError('The fields do not fit into the header.')
    stored.setPosition(0)
    header = fromByteBuffer(stored)
  } catch {
    throw damaged('its header cannot be understood')
  }
  const start = behind + indexBytes(header, bytes.length, damaged)
  if (start > bytes.length) throw damaged('it breaks off within its index')
  return { header, start }
}

/** The size of the packed Hilbert R-tree: every level is a node size smaller than the one below. */
function indexBytes(
  { featuresCount, indexNodeSize }: HeaderMeta,
  fileBytes: number,
  damaged: (what: string) => ImportError,
): number {
  if (!indexNodeSize) return 0
  if (indexNodeSize < 2 || featuresCount < 1 || featuresCount * nodeBytes > fileBytes)
    throw damaged('the index that its header describes does not fit into it')
  let nodes = featuresCount
  for (let level = featuresCount; level > 1;) {
    level = Math.ceil(level / indexNodeSize)
    nodes += level
  }
  return featuresCount === 1 ? 2 * nodeBytes : nodes * nodeBytes
}

function rowOf(bytes: Uint8Array, header: HeaderMeta): Row {
  const stored = StoredFeature.getSizePrefixedRootAsFeature(new ByteBuffer(bytes))
  checkLengths(stored.geometry(), bytes.length, 0)
  if (stored.propertiesLength() > bytes.length) throw new RangeError('The attributes are too long.')
  const geometry = stored.geometry()
  return {
    shape: geometry ? (fromGeometry(geometry, header.geometryType) as Geometry) : null,
    properties: readAttributes(stored.propertiesArray(), header.columns ?? []),
  }
}

/** Counts that cannot be true would be counted through, one by one. */
function checkLengths(geometry: StoredGeometry | null, bytes: number, depth: number): void {
  if (!geometry) return
  const [ends, numbers, parts] = [geometry.endsLength(), geometry.xyLength(), geometry.partsLength()]
  if (depth > mostNesting || ends * 4 > bytes || numbers * 8 > bytes || parts * 4 > bytes)
    throw new RangeError('The counts of the shape do not fit its length.')
  for (let i = 0; i < parts; i++) checkLengths(geometry.parts(i), bytes, depth + 1)
}
