import { closeSync, fsyncSync, fstatSync, openSync, readSync, writeSync } from 'node:fs'
import type { ByteSource, Sink } from '@/formats/byte-source'

/** A file that is read where bytes of it are asked for. It stays open as long as the process lives. */
export function fileSource(file: string): ByteSource {
  const handle = openSync(file, 'r')
  return { size: fstatSync(handle).size, read: readerOf(handle) }
}

/** A file, open as long as something is done with it. */
export function withFile<T>(file: string, work: (source: ByteSource) => T): T {
  const handle = openSync(file, 'r')
  try {
    return work({ size: fstatSync(handle).size, read: readerOf(handle) })
  } finally {
    closeSync(handle)
  }
}

const readerOf =
  (handle: number): ByteSource['read'] =>
  (offset, length) => {
    const bytes = new Uint8Array(length)
    for (let got = 0; got < length;) {
      const more = readSync(handle, bytes, got, length - got, offset + got)
      if (!more) throw new RangeError('The file ends before that.')
      got += more
    }
    return bytes
  }

/** Bytes are gathered up to so many before they are written. */
const gathered = 1 << 20

/** A file that is written piece by piece, safe on the disk when it is read. */
export function fileSink(file: string): Sink {
  const handle = openSync(file, 'w+')
  let waiting: Uint8Array[] = []
  let [size, held] = [0, 0]
  const flush = (): void => {
    for (const bytes of waiting)
      for (let done = 0; done < bytes.length;) done += writeSync(handle, bytes, done, bytes.length - done)
    waiting = []
    held = 0
  }
  return {
    write(bytes) {
      waiting.push(bytes)
      size += bytes.length
      held += bytes.length
      if (held > gathered) flush()
    },
    size: () => size,
    source() {
      flush()
      fsyncSync(handle)
      return { size, read: readerOf(handle) }
    },
  }
}
