import type { Column } from '@/core/data/column'
import type { Chain } from '@/core/data/prepare'
import type { Preparing } from '@/core/data/steps/step'
import type { Raster, ReadTile } from '@/core/data/raster'
import type { Geometry } from '@/core/geo/geometry'

type Piece = Column | Geometry | Raster
type SentStage = Omit<Preparing, 'dataset'> & {
  rowCount: number
  geometry: number
  raster: number | null
  fields: { key: string; column: number }[]
}

/**
 * Prepared datasets on their way to another thread. Pieces that the other side holds already are named, not
 * sent again.
 */
export type Parcel = {
  chains: Map<string, { result: number; stages: number[]; reports: Chain['reports'] }>
  stages: Map<number, SentStage>
  pieces: Map<number, Piece>
}

/**
 * What features were taken from stays behind: it may be much larger, and the other side can do without. So does what
 * reads the tiles of a raster, which each thread has of its own; that there is something to be read is still told.
 */
function bare(piece: Piece): Piece {
  if ('taken' in piece) return { ...piece, taken: undefined }
  return 'readTile' in piece ? { ...piece, readTile: undefined } : piece
}

/** Packs chains for one receiver; each parcel is everything that is to be held from then on. */
export function createSender(): (chains: Map<string, Chain>) => Parcel {
  const numbers = new WeakMap<object, number>()
  let count = 0
  let held = new Set<number>()
  const numberOf = (object: object): number => {
    const known = numbers.get(object)
    if (known !== undefined) return known
    numbers.set(object, ++count)
    return count
  }
  return (chains) => {
    const parcel: Parcel = { chains: new Map(), stages: new Map(), pieces: new Map() }
    const holding = new Set<number>()
    const piece = (object: Piece): number => {
      const id = numberOf(object)
      if (!held.has(id)) parcel.pieces.set(id, bare(object))
      holding.add(id)
      return id
    }
    const stage = (stage: Preparing): number => {
      const { dataset, ...more } = stage
      const id = numberOf(stage)
      if (!parcel.stages.has(id))
        parcel.stages.set(id, {
          ...more,
          rowCount: dataset.rowCount,
          geometry: piece(dataset.geometry),
          raster: dataset.raster ? piece(dataset.raster) : null,
          fields: dataset.fields.map(({ key, column }) => ({ key, column: piece(column) })),
        })
      return id
    }
    for (const [id, chain] of chains)
      parcel.chains.set(id, {
        result: stage(chain.result),
        stages: chain.stages.map(stage),
        reports: chain.reports,
      })
    held = holding
    return parcel
  }
}

/**
 * Unpacks the parcels of one sender, in their order; what was held before keeps its identity.
 * @param readerOf what reads the tiles of a raster on this side
 */
export function createReceiver(
  readerOf: ((raster: Raster) => ReadTile) | null = null,
): (parcel: Parcel) => Map<string, Chain> {
  let pieces = new Map<number, Piece>()
  let stages = new Map<number, Preparing>()
  return (parcel) => {
    const holding = new Map<number, Piece>()
    const take = (id: number): Piece => {
      const piece = holding.get(id) ?? pieces.get(id) ?? arrived(parcel.pieces.get(id))
      if (!piece) throw new Error('A piece of a dataset was not sent.')
      holding.set(id, piece)
      return piece
    }
    const arrived = (piece: Piece | undefined): Piece | undefined =>
      piece && readerOf && 'readTile' in piece ? { ...piece, readTile: readerOf(piece) } : piece
    const now = new Map<number, Preparing>()
    for (const [id, { rowCount, geometry, raster, fields, ...more }] of parcel.stages) {
      const dataset = {
        rowCount,
        geometry: take(geometry) as Geometry,
        ...(raster !== null && { raster: take(raster) as Raster }),
        fields: fields.map(({ key, column }) => ({ key, column: take(column) as Column })),
      }
      now.set(id, stages.get(id) ?? { ...more, dataset })
    }
    pieces = holding
    stages = now
    const stage = (id: number) => now.get(id) as Preparing
    return new Map(
      [...parcel.chains].map(([id, chain]) => [
        id,
        { result: stage(chain.result), stages: chain.stages.map(stage), reports: chain.reports },
      ]),
    )
  }
}
