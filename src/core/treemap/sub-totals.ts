import type { Tree } from './layout'
import { leavesOf, partAt, type NamedPart } from './tree'

/** A part of a whole by its path, and which share of it is meant: 1 all of it, 0.5 half. */
export type Share = { path: readonly string[]; share: number }

/** Parts, or shares of them, across groups, that are counted together. */
export type SubTotal = { name: string; of: readonly Share[] }

/** A piece of a strip: a share of one of the smallest parts, from `from` to `to` of the whole (0 to 1). */
export type Piece = { of: NamedPart; value: number; from: number; to: number }

/** A sub-total in the strip: the pieces that it is made of, its sum, and where it lies; null has what is left over. */
export type Segment = { index: number | null; value: number; from: number; to: number; pieces: Piece[] }

/** Shares that are added up miss a whole one by no more than this. */
const rounding = 1e-9

/**
 * A whole as a strip: its sub-totals in the order given, each of its parts in the order given, then what none of them
 * took. Every length is the sum of its values over that of all, and where one ends the next begins.
 * @returns also which parts are gone, and which were counted more than once over (those have no strip)
 */
export function stripOf(
  whole: readonly Tree<NamedPart>[],
  subTotals: readonly SubTotal[],
): { segments: Segment[]; gone: string[]; over: string[] } {
  const leaves = leavesOf(whole)
  const total = leaves.reduce((sum, { value }) => sum + value, 0)
  const left = new Map(leaves.map((leaf) => [leaf, 1]))
  const gone: string[] = []
  let before = 0
  const pieceOf = (leaf: Tree<NamedPart>, share: number): Piece => {
    const value = leaf.value * share
    const from = before
    before += value
    return { of: leaf.of, value, from: from / total, to: before / total }
  }
  const segmentOf = (index: number | null, pieces: Piece[]): Segment => ({
    index,
    value: pieces.reduce((sum, { value }) => sum + value, 0),
    from: pieces[0]?.from ?? before / total,
    to: pieces[pieces.length - 1]?.to ?? before / total,
    pieces,
  })
  const segments = subTotals.map(({ of }, index) => {
    const pieces = of.flatMap(({ path, share }) => {
      const part = partAt(whole, path)
      if (!part) gone.push(path.join(', '))
      return (part ? leavesOf([part]) : []).map((leaf) => {
        left.set(leaf, (left.get(leaf) ?? 0) - share)
        return pieceOf(leaf, share)
      })
    })
    return segmentOf(index, pieces)
  })
  const over = leaves.filter((leaf) => (left.get(leaf) ?? 0) < -rounding).map(({ of }) => of.path.join(', '))
  const rest = leaves
    .filter((leaf) => (left.get(leaf) ?? 0) > rounding)
    .map((leaf) => pieceOf(leaf, left.get(leaf) ?? 0))
  if (over.length) return { segments: [], gone, over }
  return {
    segments: [
      ...segments.filter(({ pieces }) => pieces.length),
      ...(rest.length ? [segmentOf(null, rest)] : []),
    ],
    gone,
    over,
  }
}
