'use client'
import { useEffect } from 'react'
import type { Part, Sheet } from '@/core/sheet/spec'
import { useFolio } from '../../shell/folio-store'
import { isTyping } from '../../shell/typing'
import { copyParts, cutParts, pasteParts } from '../clipboard'
import {
  deleteParts,
  duplicateParts,
  editSheet,
  groupParts,
  liftParts,
  toggleHidden,
  toggleLocked,
  ungroupParts,
} from '../edit-sheet'
import { membersOf, wholeGroups } from '@/core/sheet/pile'
import type { Point } from '@/core/sheet/frame'

type Given = {
  sheet: Sheet
  selected: Part[]
  inside: string | null
  entered: string | null
  onInside: (partId: string | null) => void
  onEnter: (groupId: string | null) => void
  /** Where the pointer is over the page, mm; null where it is elsewhere. */
  pointer: () => Point | null
}

/** The keys of the Sheet desk. */
export function useSheetKeys({ sheet, selected, inside, entered, onInside, onEnter, pointer }: Given): void {
  const select = useFolio((state) => state.select)
  useEffect(() => {
    const withCtrl = (event: KeyboardEvent): boolean => {
      const key = event.key.toLowerCase()
      if (key === 'a') {
        const free = sheet.parts.filter((part) => !part.hidden && !part.locked)
        const members =
          entered === null ? free : free.filter((part) => membersOf(sheet, entered).includes(part))
        select({ partIds: members.map(({ id }) => id) })
      } else if (key === 'c' && selected.length) copyParts(sheet, selected)
      else if (key === 'x' && selected.length) cutParts(sheet, selected)
      else if (key === 'v') pasteParts(sheet, event.shiftKey ? null : pointer())
      else return false
      return true
    }
    const plain = (event: KeyboardEvent): boolean => {
      if (!selected.length) return false
      const ids = selected.map(({ id }) => id)
      const step = nudgeMm(event)
      const arrow = arrows[event.key]
      if (arrow && !(event.target instanceof Element && event.target.closest('aside')))
        nudge(sheet.id, selected, [arrow[0] * step, arrow[1] * step])
      else if (event.key === 'Delete' || event.key === 'Backspace') deleteParts(sheet.id, selected)
      else if (event.key === 'd') duplicateParts(sheet.id, selected)
      else if (event.key === 'g') groupParts(sheet.id, ids)
      else if (event.key === 'G') ungroupParts(sheet.id, wholeGroups(sheet, ids))
      else if (event.key === 'l') toggleLocked(sheet.id, selected)
      else if (event.key === 'h') toggleHidden(sheet.id, selected)
      else if (event.key === 'PageUp') liftParts(sheet.id, ids, 'up')
      else if (event.key === 'PageDown') liftParts(sheet.id, ids, 'down')
      else if (event.key === 'Enter' && selected.length === 1 && !isControl(event.target))
        onInside(selected[0].id)
      else return false
      return true
    }
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || document.querySelector('[role="dialog"]')) return
      if (event.key === 'Escape') {
        if (inside) onInside(null)
        else if (entered) onEnter(null)
        else select({ partIds: [] })
        return
      }
      if (inside) return
      const done = event.ctrlKey || event.metaKey ? withCtrl(event) : plain(event)
      if (done) event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [selected, sheet, inside, entered, select, onInside, onEnter, pointer])
}

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

const isControl = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button, a, input, select, textarea') !== null

function nudgeMm({ altKey, shiftKey }: { altKey: boolean; shiftKey: boolean }): number {
  if (altKey) return 0.1
  return shiftKey ? 10 : 1
}

function nudge(sheetId: string, parts: readonly Part[], [dx, dy]: [number, number]): void {
  const free = new Set(parts.filter(({ locked }) => !locked).map(({ id }) => id))
  const exact = (mm: number) => Math.round(mm * 1e6) / 1e6
  if (!free.size) return
  editSheet(
    sheetId,
    `Nudge ${parts.length === 1 ? parts[0].name : `${parts.length} parts`}`,
    (draft) => {
      for (const part of draft.parts) {
        if (!free.has(part.id)) continue
        part.box.x = exact(part.box.x + dx)
        part.box.y = exact(part.box.y + dy)
      }
    },
    `nudge ${[...free].join(' ')}`,
  )
}
