'use client'
import { useRef, useState } from 'react'
import type { Point } from '@/core/sheet/frame'
import { unitOf } from '@/core/sheet/pile'
import { partTypeOf } from '@/core/sheet/registry'
import type { Handle } from '@/core/sheet/snapping'
import type { Part, Sheet } from '@/core/sheet/spec'
import { folioNow, useFolio } from '../../shell/folio-store'
import { addCopies, editSheet } from '../edit-sheet'
import { hitUnit, partsWithin, unitBeneath, type FrameOf } from '../selecting'
import {
  boxBetween,
  movedBy,
  nothingShown,
  resizedTo,
  turnedTo,
  turningMiddle,
  type Gesture,
  type Shown,
} from './gestures'

const snapPx = 6
/** A press that moved less than this was a click. */
const stillPx = 3

type Given = {
  sheet: Sheet
  selected: Part[]
  scale: number
  snap: boolean
  frameOf: FrameOf
  entered: string | null
  onEnter: (groupId: string | null) => void
  /** The place on the page under the pointer, mm. */
  at: (event: { clientX: number; clientY: number }) => Point
}

/** Taking hold of parts with the pointer: choosing, moving, copying, resizing, turning, and a frame over paper. */
export function useGestures({ sheet, selected, scale, snap, frameOf, entered, onEnter, at }: Given) {
  const gesture = useRef<Gesture | null>(null)
  const [shown, setShown] = useState<Shown>(nothingShown)
  const [frame, setFrame] = useState<ReturnType<typeof boxBetween> | null>(null)
  const select = useFolio((state) => state.select)
  const snapping = (event: { ctrlKey: boolean; metaKey: boolean }) => ({
    sheet,
    frameOf,
    tolerance: snapPx / scale,
    on: snap && !event.ctrlKey && !event.metaKey,
  })

  const begin = (event: React.PointerEvent, made: Gesture) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    gesture.current = made
  }

  /** A press on the paper: takes hold of what lies there, or begins a frame over empty paper. */
  const press = (event: React.PointerEvent): Part | null => {
    const place = at(event)
    const chosen = selected.map(({ id }) => id)
    const hit = hitUnit(sheet, place, { entered, frameOf })
    if (!hit) {
      const before = event.shiftKey ? chosen : []
      if (!event.shiftKey) {
        select({ partIds: [] })
        onEnter(null)
      }
      begin(event, { does: 'frame', start: place, now: place, moved: false, before })
      return null
    }
    if (hit.entered !== entered) onEnter(hit.entered)
    const ids = hit.unit.map(({ id }) => id)
    const already = ids.every((id) => chosen.includes(id))
    if (event.shiftKey) {
      const rest = chosen.filter((id) => !ids.includes(id))
      select({ partIds: already ? rest : [...rest, ...ids] })
      if (already) return hit.part
    } else if (!already) select({ partIds: ids })
    const parts = already || event.shiftKey ? union(selected, hit.unit) : hit.unit
    begin(event, {
      does: 'move',
      parts: parts.filter((part) => !part.locked),
      start: place,
      moved: false,
      copies: event.altKey,
      ids,
    })
    return hit.part
  }

  const grabHandle = (event: React.PointerEvent, part: Part, handle: Handle) =>
    begin(event, { does: 'resize', part, frame: frameOf(part), handle, start: at(event), moved: false })
  const grabTurn = (event: React.PointerEvent, parts: Part[]) =>
    begin(event, {
      does: 'turn',
      parts,
      middle: turningMiddle(parts, frameOf),
      start: at(event),
      moved: false,
    })

  const move = (event: React.PointerEvent) => {
    const now = gesture.current
    if (!now) return
    const here = at(event)
    const [dx, dy] = [here[0] - now.start[0], here[1] - now.start[1]]
    if (!now.moved && Math.hypot(dx, dy) * scale < stillPx) return
    const first = !now.moved
    now.moved = true
    if (now.does === 'frame') {
      now.now = here
      return setFrame(boxBetween(now.start, here))
    }
    if (now.does === 'move') {
      // The copies are made when the drag begins, and are what is dragged.
      if (first && now.copies) now.parts = copiesToDrag(sheet, now.parts)
      const { shift, shown } = movedBy(now.parts, [dx, dy], snapping(event))
      setShown(shown)
      return placeParts(sheet.id, now.copies ? 'Copy by dragging' : `Move ${nameOf(now.parts)}`, {
        merge: now.copies ? dragCopies : 'move',
        boxes: now.parts.map(({ id, box }) => ({ id, x: box.x + shift[0], y: box.y + shift[1] })),
      })
    }
    if (now.does === 'turn') {
      const turned = turnedTo(now, here, {
        frameOf: startFrames(now.parts, frameOf),
        stepDeg: event.shiftKey ? 15 : null,
      })
      return editSheet(
        sheet.id,
        `Turn ${nameOf(now.parts)}`,
        (draft) => {
          for (const { id, frame } of turned) {
            const part = draft.parts.find((one) => one.id === id)
            if (!part) continue
            part.rotationDeg = frame.rotationDeg
            const start = now.parts.find((one) => one.id === id)
            if (now.parts.length < 2 || !start) continue
            const from = frameOf(start).box
            part.box.x = start.box.x + frame.box.x - from.x
            part.box.y = start.box.y + frame.box.y - from.y
          }
        },
        'turn',
      )
    }
    const { box, shown } = resizedTo(now, here, snapping(event))
    setShown(shown)
    const { width, height } = box
    const free = partTypeOf(now.part.type).resize === 'free'
    placeParts(sheet.id, `Resize ${now.part.name}`, {
      merge: 'resize',
      boxes: [{ id: now.part.id, x: box.x, y: box.y, width, ...(free && { height }) }],
    })
  }

  const release = (event: React.PointerEvent) => {
    const now = gesture.current
    gesture.current = null
    setShown(nothingShown)
    setFrame(null)
    if (!now) return
    if (now.moved && now.does === 'frame') {
      const inside = partsWithin(sheet, boxBetween(now.start, now.now), { entered, frameOf })
      select({ partIds: [...new Set([...now.before, ...inside.map(({ id }) => id)])] })
    } else if (now.moved) useFolio.getState().seal()
    else if (now.does === 'move' && (event.ctrlKey || event.metaKey)) {
      const chosen = selected.map(({ id }) => id)
      select({ partIds: unitBeneath(sheet, now.start, chosen, frameOf).map(({ id }) => id) })
    } else if (now.does === 'move' && !event.shiftKey) select({ partIds: now.ids })
  }

  /** What a double click opens: the group that lies there, else the part. */
  const enter = (event: { clientX: number; clientY: number }): Part | null => {
    const place = at(event)
    const hit = hitUnit(sheet, place, { entered, frameOf })
    if (!hit) return null
    const unit = unitOf(sheet, hit.part, hit.entered)
    if (unit && unit.id !== hit.part.id) {
      onEnter(unit.id)
      const inner = unitOf(sheet, hit.part, unit.id)
      select({ partIds: (inner?.parts ?? [hit.part]).map(({ id }) => id) })
      return null
    }
    select({ partIds: [hit.part.id] })
    return hit.part
  }
  return { press, move, release, enter, grabHandle, grabTurn, shown, frame }
}

const dragCopies = 'copy by dragging'

const union = (a: Part[], b: Part[]): Part[] => [
  ...a,
  ...b.filter((part) => !a.some(({ id }) => id === part.id)),
]

const nameOf = (parts: readonly Part[]): string =>
  parts.length === 1 ? parts[0].name : `${parts.length} parts`

/** Frames as they were when the parts were taken hold of. */
const startFrames =
  (parts: readonly Part[], frameOf: FrameOf): FrameOf =>
  (part) => {
    const start = parts.find(({ id }) => id === part.id) ?? part
    return { box: frameOf(start).box, rotationDeg: start.rotationDeg }
  }

function copiesToDrag(sheet: Sheet, parts: Part[]): Part[] {
  const ids = addCopies(sheet.id, parts, { name: 'Copy by dragging', shift: [0, 0], merge: dragCopies })
  useFolio.getState().select({ partIds: ids })
  const now = folioNow().sheets.find(({ id }) => id === sheet.id)
  return now?.parts.filter(({ id }) => ids.includes(id)) ?? []
}

type NewBox = { id: string; x: number; y: number; width?: number; height?: number }

/** Puts parts into their places, as one step of undo with those before it of the same sort. */
function placeParts(
  sheetId: string,
  name: string,
  { merge, boxes }: { merge: string; boxes: NewBox[] },
): void {
  const exact = (mm: number) => Math.round(mm * 1e6) / 1e6
  editSheet(
    sheetId,
    name,
    (draft) => {
      for (const { id, ...box } of boxes) {
        const part = draft.parts.find((one) => one.id === id)
        if (!part) continue
        part.box.x = exact(box.x)
        part.box.y = exact(box.y)
        if (box.width !== undefined) part.box.width = box.width
        if (box.height !== undefined) part.box.height = box.height
      }
    },
    merge,
  )
}
