import type { PartBox } from './part'

/** A unit that is arranged: a part or a group, with the upright box around it on the page. */
export type Unit = { id: string; box: PartBox }

/** By how much a unit is moved, mm. */
export type Shift = { dx: number; dy: number }

export const sides = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const
export type Side = (typeof sides)[number]

const none: Shift = { dx: 0, dy: 0 }

/** Moves that bring one side, or the middle, of each unit onto that of a box. */
export function aligned(units: readonly Unit[], side: Side, to: PartBox): Map<string, Shift> {
  const shift = ({ box }: Unit): Shift => {
    switch (side) {
      case 'left':
        return { ...none, dx: to.x - box.x }
      case 'centre':
        return { ...none, dx: to.x + to.width / 2 - (box.x + box.width / 2) }
      case 'right':
        return { ...none, dx: to.x + to.width - (box.x + box.width) }
      case 'top':
        return { ...none, dy: to.y - box.y }
      case 'middle':
        return { ...none, dy: to.y + to.height / 2 - (box.y + box.height / 2) }
      case 'bottom':
        return { ...none, dy: to.y + to.height - (box.y + box.height) }
    }
  }
  return new Map(units.map((unit) => [unit.id, shift(unit)]))
}

/**
 * Moves that put units at equal gaps, or their middles at equal distances, between the first and the last one, which
 * stay. Fewer than three stay as they are.
 */
export function distributed(
  units: readonly Unit[],
  axis: 'x' | 'y',
  by: 'gaps' | 'centres',
): Map<string, Shift> {
  const start = ({ box }: Unit) => (axis === 'x' ? box.x : box.y)
  const size = ({ box }: Unit) => (axis === 'x' ? box.width : box.height)
  const middle = (unit: Unit) => start(unit) + size(unit) / 2
  const sorted = [...units].sort((a, b) => middle(a) - middle(b))
  const [first, last] = [sorted[0], sorted[sorted.length - 1]]
  if (sorted.length < 3) return new Map(units.map(({ id }) => [id, none]))
  const all = sorted.reduce((sum, unit) => sum + size(unit), 0)
  const gap = (start(last) + size(last) - start(first) - all) / (sorted.length - 1)
  const pace = (middle(last) - middle(first)) / (sorted.length - 1)
  let next = start(first)
  return new Map(
    sorted.map((unit, i): [string, Shift] => {
      const to = by === 'gaps' ? next : middle(first) + i * pace - size(unit) / 2
      next += size(unit) + gap
      const by_ = to - start(unit)
      return [unit.id, axis === 'x' ? { dx: by_, dy: 0 } : { dx: 0, dy: by_ }]
    }),
  )
}

/** How a space is divided: so many columns and rows, with so much between them, mm. */
export type Division = { columns: number; rows: number; gutterX: number; gutterY: number }

/** What is wrong with a division of a box, in a sentence; null where every cell is at least a millimetre. */
export function divisionProblem({ width, height }: PartBox, division: Division): string | null {
  const { columns, rows, gutterX, gutterY } = division
  if (![columns, rows].every((n) => Number.isInteger(n) && n >= 1 && n <= 100))
    return 'Columns and rows are whole numbers from 1 to 100.'
  if (gutterX < 0 || gutterY < 0) return 'The gutter cannot be less than nothing.'
  if ((width - (columns - 1) * gutterX) / columns < 1)
    return `${columns} columns with ${gutterX} mm between them do not fit into ${width.toFixed(1)} mm.`
  if ((height - (rows - 1) * gutterY) / rows < 1)
    return `${rows} rows with ${gutterY} mm between them do not fit into ${height.toFixed(1)} mm.`
  return null
}

/** The cells of a divided box, row by row from the top left. Together with the gutters they fill it exactly. */
export function cellsOf(box: PartBox, { columns, rows, gutterX, gutterY }: Division): PartBox[] {
  const width = (box.width - (columns - 1) * gutterX) / columns
  const height = (box.height - (rows - 1) * gutterY) / rows
  return Array.from({ length: columns * rows }, (_, i) => ({
    x: box.x + (i % columns) * (width + gutterX),
    y: box.y + Math.floor(i / columns) * (height + gutterY),
    width,
    height,
  }))
}

/** Units in reading order: row by row from the top left, as cells are. */
export function inReadingOrder(units: readonly Unit[]): Unit[] {
  const rows: Unit[][] = []
  const middle = ({ box }: Unit) => box.y + box.height / 2
  for (const unit of [...units].sort((a, b) => middle(a) - middle(b))) {
    const row = rows.at(-1)
    const [first] = row ?? []
    // Whatever begins above the middle of the row's first one stands beside it.
    if (row && first && unit.box.y < middle(first)) row.push(unit)
    else rows.push([unit])
  }
  return rows.flatMap((row) => row.sort((a, b) => a.box.x - b.box.x))
}
