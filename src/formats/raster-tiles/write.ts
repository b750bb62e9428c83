import { createHash } from 'node:crypto'
import { deflateSync } from 'node:zlib'
import { commonest } from '@/core/data/raster-cells'
import { heldLevel, sizeAtLevel, type FineCells } from '@/core/data/raster'
import type { Sink } from '../byte-source'
import { tileToBytes } from './codec'
import { entryBytes, indexOf, magic, tileCount, tilesAlong, type TilesHead } from './layout'

/** Cells along a side of a tile; smaller ones for many bands, whose rows are all under way at once. */
const sideFor = (bands: number): number => (bands > 4 ? 128 : 256)

/** What levels of detail are made of; `ofKinds` as in `Raster`. */
export type LevelsOf = { columns: number; rows: number; bands: number; ofKinds?: boolean }

export type PyramidWriter = {
  /** Takes the next row of each band. */
  row: (bands: ArrayLike<number>[]) => void
  /** The held cells, and what there is of finer ones; null where all are held. @throws Error where rows are missing */
  end: () => { columns: number; rows: number; values: Float32Array; fine: Omit<FineCells, 'id'> | null }
}

/** Rows of a level that are under way: those of a row of tiles, and how many cells of the file each stands for. */
type Strip = {
  values: Float32Array[]
  weights: Uint32Array[] | null
  done: number
  columns: number
  rows: number
}

/**
 * Makes the levels of detail of a raster out of its rows, from the top down, holding no more than a row of tiles of
 * each level. The mean of a cell is that of all cells of the file under it that have a value. Of kinds of ground it
 * is the commonest of the four cells under it, each counted as often as it stands for cells of the file that have a
 * value.
 */
export function writePyramid(
  { columns, rows, bands, ofKinds }: LevelsOf,
  openSink: () => Sink,
): PyramidWriter {
  const levels = heldLevel(columns, rows)
  const head: TilesHead = { columns, rows, bands, side: sideFor(bands), levels }
  const held = sizeAtLevel(columns, rows, levels)
  const values = new Float32Array(bands * held.columns * held.rows)
  const tiles = levels > 0 ? tileWriter(head, openSink()) : null
  const strips = Array.from({ length: levels }, (_, level): Strip => {
    const size = sizeAtLevel(columns, rows, level)
    const cells = size.columns * Math.min(head.side, size.rows)
    return {
      ...size,
      done: 0,
      values: Array.from({ length: bands }, () => new Float32Array(cells)),
      weights: level ? Array.from({ length: bands }, () => new Uint32Array(cells)) : null,
    }
  })
  let heldRows = 0

  /** Takes a row of a level, whose weights are one where the level is that of the file. */
  function take(level: number, row: ArrayLike<number>[], weights: Uint32Array[] | null): void {
    if (level === levels) {
      row.forEach((cells, b) => values.set(cells, (b * held.rows + heldRows) * held.columns))
      heldRows++
      return
    }
    const strip = strips[level]
    const at = (strip.done % head.side) * strip.columns
    row.forEach((cells, b) => {
      strip.values[b].set(cells, at)
      if (weights) strip.weights?.[b].set(weights[b], at)
    })
    strip.done++
    const isLast = strip.done === strip.rows
    if (strip.done % 2 === 0 || isLast) halve(level, strip)
    if (strip.done % head.side === 0 || isLast) tiles?.write(level, strip)
  }

  /** Hands the means of the last two rows, or of a single last one, to the next level. */
  function halve(level: number, { values: cells, weights, done, columns: wide }: Strip): void {
    const last = (done - 1) % head.side
    const first = done % 2 === 0 ? last - 1 : last
    const next = Math.ceil(wide / 2)
    const means = cells.map(() => new Float32Array(next))
    const counts = cells.map(() => new Uint32Array(next))
    const [four, shares] = [new Float64Array(4), new Float64Array(4)]
    cells.forEach((band, b) => {
      const weigh = weights?.[b]
      for (let c = 0; c < next; c++) {
        let [sum, count, there] = [0, 0, 0]
        for (let r = first; r <= last; r++)
          for (let x = 2 * c; x < Math.min(wide, 2 * c + 2); x++) {
            const value = band[r * wide + x]
            if (value !== value) continue
            const weight = weigh ? weigh[r * wide + x] : 1
            sum += value * weight
            count += weight
            four[there] = value
            shares[there++] = weight
          }
        means[b][c] = ofKinds ? commonest(four, shares, there) : sum / count
        counts[b][c] = count
      }
    })
    take(level + 1, means, counts)
  }

  return {
    row: (cells) => take(0, cells, null),
    end() {
      if (heldRows !== held.rows) throw new Error('Rows of the raster are missing.')
      return { ...held, values, fine: tiles?.end() ?? null }
    },
  }
}

function tileWriter(head: TilesHead, sink: Sink) {
  const { side, levels } = head
  const index = new DataView(new ArrayBuffer(entryBytes * tileCount(head)))
  const hash = createHash('sha256')
  const put = (bytes: Uint8Array): void => {
    hash.update(bytes)
    sink.write(bytes)
  }
  put(new TextEncoder().encode(magic))
  return {
    /** Writes the row of tiles that a strip holds. */
    write(level: number, { values, done, columns }: Strip): void {
      const row = Math.ceil(done / side) - 1
      const high = done - row * side
      values.forEach((cells, band) => {
        for (let column = 0; column < tilesAlong(columns, side); column++) {
          const wide = Math.min(side, columns - column * side)
          const tile = new Float32Array(wide * high)
          for (let r = 0; r < high; r++) {
            const from = r * columns + column * side
            tile.set(cells.subarray(from, from + wide), r * wide)
          }
          const packed = deflateSync(tileToBytes(tile, wide), { level: 1 })
          const at = entryBytes * indexOf(head, { level, band, column, row })
          index.setBigUint64(at, BigInt(sink.size()), true)
          index.setUint32(at + 8, packed.length, true)
          put(packed)
        }
      })
    },
    end(): Omit<FineCells, 'id'> {
      const indexStart = sink.size()
      put(new Uint8Array(index.buffer))
      const words = new TextEncoder().encode(JSON.stringify(head))
      put(words)
      const end = new DataView(new ArrayBuffer(16))
      end.setUint32(0, words.length, true)
      end.setBigUint64(8, BigInt(indexStart), true)
      put(new Uint8Array(end.buffer))
      put(new TextEncoder().encode(magic))
      return { side, levels, digest: hash.digest('hex').slice(0, 32), bytes: sink.size() }
    },
  }
}
