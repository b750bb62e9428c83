'use client'
import { boxAround, boxAroundAll, holds, type Frame, type Point } from '@/core/sheet/frame'
import type { PartBox } from '@/core/sheet/part'
import { unitOf, unitsOf } from '@/core/sheet/pile'
import type { Unit } from '@/core/sheet/arrange'
import type { Part, Sheet } from '@/core/sheet/spec'
import { useFolio } from '../shell/folio-store'

/** The space that parts really take up, as they were last drawn. */
export type FrameOf = (part: Part) => Frame

/** The parts of a sheet that are selected, in the order of the pile, and the one chosen last. */
export function useSelectedParts(sheet: Sheet | undefined): { parts: Part[]; last: Part | null } {
  const { partIds } = useFolio((state) => state.selection)
  const parts = sheet?.parts.filter(({ id }) => partIds.includes(id)) ?? []
  return { parts, last: parts.find(({ id }) => id === partIds.at(-1)) ?? parts.at(-1) ?? null }
}

const canBeHit = (part: Part): boolean => !part.hidden && !part.locked

/** The parts under a place, the topmost first. */
export const partsAt = (sheet: Sheet, place: Point, frameOf: FrameOf): Part[] =>
  sheet.parts.filter((part) => canBeHit(part) && holds(frameOf(part), place)).reverse()

/** What a press at a place takes hold of: the topmost unit of the group that was entered, or of the sheet. */
export function hitUnit(
  sheet: Sheet,
  place: Point,
  { entered, frameOf }: { entered: string | null; frameOf: FrameOf },
): { part: Part; unit: Part[]; entered: string | null } | null {
  const hits = partsAt(sheet, place, frameOf)
  for (const within of entered === null ? [null] : [entered, null])
    for (const part of hits) {
      const unit = unitOf(sheet, part, within)
      if (unit) return { part, unit: unit.parts, entered: within }
    }
  return null
}

/** The unit beneath the ones that are selected, at a place; the topmost again after the lowest. */
export function unitBeneath(sheet: Sheet, place: Point, chosen: readonly string[], frameOf: FrameOf): Part[] {
  const hits = partsAt(sheet, place, frameOf)
  const at = hits.findLastIndex(({ id }) => chosen.includes(id))
  const next = hits[at + 1] ?? hits[0]
  return next ? [next] : []
}

/** The parts of all units that lie wholly in a box. */
export function partsWithin(
  sheet: Sheet,
  { x, y, width, height }: PartBox,
  { entered, frameOf }: { entered: string | null; frameOf: FrameOf },
): Part[] {
  const inside = (part: Part): boolean => {
    const box = boxAround(frameOf(part))
    return box.x >= x && box.y >= y && box.x + box.width <= x + width && box.y + box.height <= y + height
  }
  return sheet.parts.filter((part) => {
    const unit = canBeHit(part) ? unitOf(sheet, part, entered) : null
    return unit !== null && unit.parts.every(inside)
  })
}

/** The units of a selection with the boxes around them. */
export function unitsWithBoxes(
  sheet: Sheet,
  ids: readonly string[],
  frameOf: FrameOf,
): (Unit & { parts: Part[] })[] {
  return unitsOf(sheet, ids).flatMap(({ id, parts }) => {
    const box = boxAroundAll(parts.map((part) => boxAround(frameOf(part))))
    return box ? [{ id, parts, box }] : []
  })
}
