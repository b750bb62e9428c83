import { crc32 } from 'node:zlib'
import { fromBuffer, type Entry, type ZipFile } from 'yauzl'
import { ImportError } from '../import-error'
import { limits } from '../limits'

/** As much may come out for each byte that went in; a bomb holds far more than it weighs. */
const maxRatio = 400
const looseBytes = 10 * 1024 * 1024

/**
 * The files of an archive by their names, without folders where these mean nothing; they are never written
 * under these names. What really comes out
 * is counted and checked against its check sum, whatever the archive says of itself.
 * @throws ImportError
 */
export async function unzip(
  bytes: Uint8Array,
  fileName: string,
  wanted: (name: string) => boolean = () => true,
  { withFolders = false }: { withFolders?: boolean } = {},
): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>()
  let total = 0
  try {
    const archive = await opened(bytes)
    if (archive.entryCount > limits.entries)
      throw new ImportError(`${fileName} holds more than ${limits.entries} files.`)
    for await (const entry of entriesOf(archive)) {
      const path = pathOf(entry)
      const name = withFolders ? path : baseName(path)
      if (!name || !wanted(name)) continue
      if (entry.isEncrypted())
        throw new ImportError(
          `${name} in ${fileName} is locked with a password. Save the archive without one.`,
        )
      files.set(name, await contentOf(archive, entry, take))
    }
    return files
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(`${fileName} is not a complete zip archive.`)
  }

  function take(size: number, entry: Entry, written: number): void {
    total += size
    if (total > limits.unpackedBytes || (written > looseBytes && written > entry.compressedSize * maxRatio))
      throw new ImportError(
        `${fileName} would unpack to more than can be taken in. Unpack it yourself and bring in the files you need.`,
      )
  }
}

const opened = (bytes: Uint8Array): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    fromBuffer(
      Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
      // Names are only compared, never written to; they are decoded here.
      { lazyEntries: true, validateEntrySizes: true, decodeStrings: false },
      (error, archive) => (error ? reject(error) : resolve(archive)),
    ),
  )

async function* entriesOf(archive: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const settle = (give: () => void) => {
        archive.removeAllListeners()
        give()
      }
      archive.once('entry', (next: Entry) => settle(() => resolve(next)))
      archive.once('end', () => settle(() => resolve(null)))
      archive.once('error', (error: Error) => settle(() => reject(error)))
      archive.readEntry()
    })
    if (!entry) return
    yield entry
  }
}

/** What an entry holds; `take` is told of every piece, with all that has come out so far. */
async function contentOf(
  archive: ZipFile,
  entry: Entry,
  take: (size: number, entry: Entry, written: number) => void,
): Promise<Uint8Array> {
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    archive.openReadStream(entry, (error, opening) => (error ? reject(error) : resolve(opening))),
  )
  const pieces: Buffer[] = []
  let written = 0
  let sum = 0
  for await (const piece of stream as AsyncIterable<Buffer>) {
    written += piece.length
    take(piece.length, entry, written)
    sum = crc32(piece, sum)
    pieces.push(piece)
  }
  if (sum !== entry.crc32) throw new Error('The check sum does not fit.')
  const whole = new Uint8Array(written)
  let at = 0
  for (const piece of pieces) {
    whole.set(piece, at)
    at += piece.length
  }
  return whole
}

/** The path of an entry; older programs write it in an encoding of one byte a letter. */
function pathOf({ fileName }: Entry): string {
  // The library gives bytes where it is asked not to decode; its types do not say so.
  const bytes = fileName as unknown as Buffer
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return bytes.toString('latin1')
  }
}

const baseName = (path: string): string => path.replace(/^.*[\\/]/, '')
