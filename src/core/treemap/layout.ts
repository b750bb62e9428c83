import type { Box } from '@/core/scene/outline'

/** A part of a whole that may have parts of its own, whose values it is the sum of. */
export type Tree<T> = { of: T; value: number; parts: Tree<T>[] }

/** A part with its place: `depth` is 1 for the parts of the whole. */
export type Tile<T> = { of: T; value: number; depth: number; box: Box; isLeaf: boolean }

export const treemapLayouts = {
  slices: 'Slices, in turn across and down',
  strips: 'Strips, in the given order',
  squares: 'As square as can be',
} as const
export type TreemapLayout = keyof typeof treemapLayouts
export const treemapLayoutIds = Object.keys(treemapLayouts) as [TreemapLayout, ...TreemapLayout[]]

/**
 * The place of every part of a whole in a box, parents before their parts. Areas are in proportion to values, and a
 * parent's box is that of its parts: places are reckoned from shares of running sums, so that each row ends where the
 * box does, and nothing is rounded. Parts without a value above zero have no place.
 * - slices: slice and dice (Shneiderman 1992)
 * - strips: rows from the top, filled as long as their tiles become squarer (Bederson, Shneiderman & Wattenberg 2002)
 * - squares: rows along the shorter side (Bruls, Huizing & van Wijk 2000), of the parts from the largest down
 */
export function treemap<T>(whole: readonly Tree<T>[], box: Box, layout: TreemapLayout, depth = 1): Tile<T>[] {
  const shown = whole.filter(({ value }) => value > 0)
  const parts = layout === 'squares' ? [...shown].sort((a, b) => b.value - a.value) : shown
  const boxes = ways[layout](
    parts.map(({ value }) => value),
    box,
    depth,
  )
  return parts.flatMap(({ of, value, parts: inner }, i) => [
    { of, value, depth, box: boxes[i], isLeaf: inner.length === 0 },
    ...treemap(inner, boxes[i], layout, depth + 1),
  ])
}

type Way = (values: number[], box: Box, depth: number) => Box[]

const ways: Record<TreemapLayout, Way> = {
  slices: (values, box, depth) => row(values, box, depth % 2 ? 'across' : 'down'),
  strips: (values, box) => rows(values, box, () => 'across'),
  squares: (values, box) => rows(values, box, ({ width, height }) => (width < height ? 'across' : 'down')),
}

type Direction = 'across' | 'down'

/** Boxes beside each other, or below each other, over a whole box. */
function row(values: readonly number[], { x, y, width, height }: Box, direction: Direction): Box[] {
  const total = values.reduce((sum, value) => sum + value, 0)
  let before = 0
  return values.map((value) => {
    const [from, to] = [before / total, (before += value) / total]
    return direction === 'across'
      ? { x: x + width * from, y, width: width * (to - from), height }
      : { x, y: y + height * from, width, height: height * (to - from) }
  })
}

/**
 * Rows that are filled one after the other, each as long as its tiles become squarer by one more.
 * @param along which way the tiles of a row follow each other in the room that is left
 */
function rows(values: readonly number[], box: Box, along: (room: Box) => Direction): Box[] {
  const out: Box[] = []
  let room = box
  for (let start = 0; start < values.length;) {
    const direction = along(room)
    const left = values.slice(start)
    const whole = left.reduce((sum, value) => sum + value, 0)
    const [length, depth] = direction === 'across' ? [room.width, room.height] : [room.height, room.width]
    let count = 1
    const shapeOf = (n: number): number => longest(left.slice(0, n), { length, depth, whole })
    while (count < left.length && shapeOf(count + 1) <= shapeOf(count)) count++
    const taken = left.slice(0, count)
    const share = count === left.length ? 1 : taken.reduce((sum, value) => sum + value, 0) / whole
    const own: Box =
      direction === 'across'
        ? { ...room, height: room.height * share }
        : { ...room, width: room.width * share }
    out.push(...row(taken, own, direction))
    room =
      direction === 'across'
        ? { ...room, y: room.y + own.height, height: room.height - own.height }
        : { ...room, x: room.x + own.width, width: room.width - own.width }
    start += count
  }
  return out
}

/** How long the longest tile of a row would be for its width, 1 for squares. */
function longest(
  values: readonly number[],
  { length, depth, whole }: { length: number; depth: number; whole: number },
): number {
  const sum = values.reduce((all, value) => all + value, 0)
  const across = (depth * sum) / whole
  return Math.max(
    ...values.map((value) => {
      const along = (length * value) / sum
      return Math.max(along / across, across / along)
    }),
  )
}
