'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import type { Part, Sheet } from '@/core/sheet/spec'
import { editFolio, useFolio } from '../shell/folio-store'

export function editSheet(
  sheetId: string,
  name: string,
  recipe: (sheet: Draft<Sheet>) => void,
  merge?: string,
): void {
  editFolio(
    name,
    (draft) => {
      const sheet = draft.sheets.find((s) => s.id === sheetId)
      if (sheet) recipe(sheet)
    },
    merge && `${sheetId} ${merge}`,
  )
}

export function editPart(
  { sheetId, partId }: { sheetId: string; partId: string },
  name: string,
  recipe: (part: Draft<Part>) => void,
  merge?: string,
): void {
  editSheet(
    sheetId,
    name,
    (sheet) => {
      const part = sheet.parts.find((p) => p.id === partId)
      if (part) recipe(part as Draft<Part>)
    },
    merge && `${partId} ${merge}`,
  )
}

export function addPart(sheetId: string, part: Part): void {
  editSheet(
    sheetId,
    `Place ${part.name.toLowerCase()}`,
    (sheet) => void sheet.parts.push(part as Draft<Part>),
  )
  useFolio.getState().select({ partId: part.id })
}

export function deletePart(sheetId: string, part: Part): void {
  editSheet(
    sheetId,
    `Delete ${part.name}`,
    (sheet) => void (sheet.parts = sheet.parts.filter((p) => p.id !== part.id)),
  )
  useFolio.getState().select({ partId: null })
  useFolio.getState().tell(`“${part.name}” was deleted.`, true)
}

export function duplicatePart(sheetId: string, part: Part): void {
  const copy = {
    ...structuredClone(part),
    id: nanoid(8),
    name: `${part.name}, copy`,
    box: { ...part.box, x: part.box.x + 5, y: part.box.y + 5 },
  }
  editSheet(sheetId, `Duplicate ${part.name}`, (sheet) => void sheet.parts.push(copy as Draft<Part>))
  useFolio.getState().select({ partId: copy.id })
}

/** Moves a part in the pile: +1 is one higher. */
export function liftPart(sheetId: string, partId: string, by: number): void {
  editSheet(sheetId, by > 0 ? 'Part up' : 'Part down', (sheet) => {
    const from = sheet.parts.findIndex((p) => p.id === partId)
    const to = Math.max(0, Math.min(sheet.parts.length - 1, from + by))
    const [part] = sheet.parts.splice(from, 1)
    sheet.parts.splice(to, 0, part)
  })
}
