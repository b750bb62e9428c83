import {
  closeSync,
  createReadStream,
  createWriteStream,
  existsSync,
  openSync,
  readdirSync,
  readSync,
  statSync,
} from 'node:fs'
import { createHash } from 'node:crypto'
import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { extract, pack, type Header } from 'tar-stream'
import { SaidError } from '@/core/said/said-error'
import { syncFile } from '../../write-durably'
import type { TaskContext } from '../protocol'
import type { WrittenFile } from './export-dataset'

/** What a file of everything holds beside the database, by the folder of the store: names as they may be. */
const kept: Record<string, RegExp> = {
  datasets: /^[0-9a-f]{32}\.(pack|tiles)$/,
  pictures: /^[0-9a-f]{32}\.picture$/,
  uploads: /^[\w-]{16}(\.name)?$/,
  templates: /^[\w-]{1,60}\.json$/,
  prints: /^[\w-]{12}\.print$/,
}
const databaseName = 'keen-plot.sqlite'
/** Stands at the end, so that a file that was cut off is known. */
const endName = 'end'

type Piece = { name: string; file: string; bytes: number }

const piecesOf = (folder: string): Piece[] =>
  Object.entries(kept).flatMap(([store, names]) => {
    const place = path.join(folder, store)
    if (!existsSync(place)) return []
    return readdirSync(place)
      .filter((name) => names.test(name))
      .map((name) => ({ name: `${store}/${name}`, file: path.join(place, name) }))
      .map((piece) => ({ ...piece, bytes: statSync(piece.file).size }))
  })

/** Writes the database and all that is stored beside it as one file (tar, POSIX.1-2001). */
export async function packEverything(
  { folder, database, fileName }: { folder: string; database: string; fileName: string },
  { scratch, progress }: TaskContext,
): Promise<WrittenFile> {
  const all = [{ name: databaseName, file: database, bytes: statSync(database).size }, ...piecesOf(folder)]
  const bytes = all.reduce((sum, piece) => sum + piece.bytes, 0)
  const file = path.join(scratch, 'everything')
  const archive = pack()
  const written = pipeline(archive, createWriteStream(file))
  let done = 0
  const remarks: string[] = []
  for (const piece of all) {
    progress(done / bytes, `Packing ${Math.round(done / 1e6)} of ${Math.round(bytes / 1e6)} MB`)
    // What is cleared away meanwhile is in no folio any more.
    if (!existsSync(piece.file)) continue
    await new Promise<void>((resolve, reject) => {
      const entry = archive.entry({ name: piece.name, size: piece.bytes }, (error) =>
        error ? reject(error) : resolve(),
      )
      pipeline(createReadStream(piece.file), entry).catch(reject)
    })
    done += piece.bytes
  }
  archive.entry({ name: endName }, 'end\n')
  archive.finalize()
  await written
  await syncFile(file)
  return { file, fileName, bytes: statSync(file).size, remarks }
}

/** A file of everything that was read: files that only need their places. */
export type Everything = { database: string; stored: { store: string; name: string; file: string }[] }

/** Whether a file begins as a database does. */
function isDatabaseFile(file: string): boolean {
  const start = Buffer.alloc(16)
  const handle = openSync(file, 'r')
  readSync(handle, start, 0, 16, 0)
  closeSync(handle)
  return start.toString('latin1') === 'SQLite format 3\0'
}

/**
 * Unpacks a file of everything; a database alone is taken as it is. Each name must be one that we write, and rows and
 * pictures must be the ones that their names stand for.
 * @throws SaidError saying what is wrong with it; then nothing of it is taken
 */
export async function readEverything(
  { file }: { file: string },
  { scratch, progress }: TaskContext,
): Promise<Everything> {
  if (isDatabaseFile(file)) return { database: file, stored: [] }
  const bytes = statSync(file).size
  const stored: Everything['stored'] = []
  let [database, ended, read] = ['', false, 0]
  const take = async ({ name, type, size = 0 }: Header, content: Readable): Promise<void> => {
    if (name === endName) {
      ended = true
      content.resume()
      return
    }
    const [store, ...rest] = name.split('/')
    const isDatabase = name === databaseName
    if (type !== 'file' || (!isDatabase && !(rest.length === 1 && kept[store]?.test(rest[0]))))
      throw new SaidError(`This is no file of everything: it holds “${name.slice(0, 80)}”.`)
    const place = path.join(scratch, isDatabase ? databaseName : path.join(store, rest[0]))
    await mkdir(path.dirname(place), { recursive: true })
    const digest = createHash('sha256')
    await pipeline(
      content,
      new Transform({
        transform(piece: Buffer, _, done) {
          digest.update(piece)
          done(null, piece)
        },
      }),
      createWriteStream(place),
    )
    if (
      !isDatabase &&
      /\.(pack|picture)$/.test(name) &&
      digest.digest('hex').slice(0, 32) !== rest[0].slice(0, 32)
    )
      throw new SaidError(`The file is damaged: ${name} is not what it was.`)
    if (isDatabase) database = place
    else stored.push({ store, name: rest[0], file: place })
    read += size
    progress(
      Math.min(1, read / bytes),
      `Unpacking ${Math.round(read / 1e6)} of ${Math.round(bytes / 1e6)} MB`,
    )
  }
  const reader = extract()
  const entries = (async () => {
    for await (const entry of reader) await take(entry.header, entry as unknown as Readable)
  })()
  try {
    await Promise.all([pipeline(createReadStream(file), reader), entries])
  } catch (error) {
    if (error instanceof SaidError) throw error
    throw new SaidError('This is no file of everything, or it is damaged.', { cause: error })
  }
  if (!database || !ended)
    throw new SaidError('This is no file of everything, or it was cut off: its end is missing.')
  return { database, stored }
}
