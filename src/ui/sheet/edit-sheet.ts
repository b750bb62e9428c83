'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { grouped, lifted, placedBeside, ungrouped, withoutParts, type Pile } from '@/core/sheet/pile'
import { copiesOf } from '@/core/sheet/copies'
import { freeName } from '@/core/sheet/free-name'
import type { PartTypeId, SettingsOf } from '@/core/sheet/registry'
import type { Part, Sheet } from '@/core/sheet/spec'
import { editFolio, folioNow, useFolio } from '../shell/folio-store'

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

/** Changes the settings of a part; `merge` joins changes of one kind into one step of undo. */
export type ChangeSettings<T extends PartTypeId> = (
  name: string,
  recipe: (settings: Draft<SettingsOf<T>>) => void,
  merge?: string,
) => void

/** What changes the settings of one part. */
export const settingsChanger =
  <T extends PartTypeId>(sheetId: string, part: { id: string; type: T }): ChangeSettings<T> =>
  (name, recipe, merge) =>
    editPart(
      { sheetId, partId: part.id },
      name,
      (draft) => {
        if (draft.type === part.type) recipe(draft.settings as Draft<SettingsOf<T>>)
      },
      merge,
    )

/** Puts a pile that was reckoned in place of that of a sheet. */
function editPile(sheetId: string, name: string, change: (pile: Pile) => Pile): void {
  const sheet = sheetNow(sheetId)
  if (!sheet) return
  const { parts, groups } = change(sheet)
  editSheet(sheetId, name, (draft) => {
    draft.parts = parts as Draft<Part>[]
    draft.groups = groups
  })
}

export function addPart(sheetId: string, part: Part): void {
  editSheet(
    sheetId,
    `Place ${part.name.toLowerCase()}`,
    (sheet) => void sheet.parts.push(part as Draft<Part>),
  )
  useFolio.getState().select({ partIds: [part.id] })
}

const namesOf = (parts: readonly Part[]): string =>
  parts.length === 1 ? `“${parts[0].name}”` : `${parts.length} parts`

export function deleteParts(sheetId: string, parts: readonly Part[]): void {
  if (!parts.length) return
  editPile(sheetId, `Delete ${namesOf(parts)}`, (pile) =>
    withoutParts(
      pile,
      parts.map(({ id }) => id),
    ),
  )
  useFolio.getState().select({ partIds: [] })
  useFolio.getState().tell(`${namesOf(parts)} ${parts.length === 1 ? 'was' : 'were'} deleted.`, true)
}

/** Copies of parts, with their groups, above the topmost of the sheet; returns the ids of the copies. */
export function addCopies(
  sheetId: string,
  parts: readonly Part[],
  {
    name,
    shift,
    times = 1,
    merge,
  }: { name: string; shift: [number, number]; times?: number; merge?: string },
): string[] {
  const sheet = sheetNow(sheetId)
  if (!sheet) return []
  const chosen = parts.map(({ id }) => id)
  const taken = [...sheet.parts]
  const groups: Pile['groups'] = []
  for (let n = 1; n <= times; n++) {
    const copies = copiesOf(sheet, chosen, () => nanoid(8))
    for (const part of copies.parts) {
      const { box } = part
      taken.push({
        ...part,
        name: freeName(taken, part.name),
        box: { ...box, x: box.x + n * shift[0], y: box.y + n * shift[1] },
      })
    }
    groups.push(...copies.groups)
  }
  const made = taken.slice(sheet.parts.length)
  editSheet(
    sheetId,
    name,
    (draft) => {
      draft.parts.push(...(made as Draft<Part>[]))
      draft.groups.push(...groups)
    },
    merge,
  )
  return made.map(({ id }) => id)
}

const sheetNow = (sheetId: string): Sheet | undefined => folioNow().sheets.find(({ id }) => id === sheetId)

export function duplicateParts(sheetId: string, parts: readonly Part[]): void {
  if (!parts.length) return
  const partIds = addCopies(sheetId, parts, { name: `Duplicate ${namesOf(parts)}`, shift: [5, 5] })
  useFolio.getState().select({ partIds })
}

export function groupParts(sheetId: string, partIds: readonly string[]): void {
  if (partIds.length < 2) return
  editPile(sheetId, 'Group parts', (pile) =>
    grouped(pile, partIds, { id: nanoid(8), name: freeName(pile.groups, 'Group') }),
  )
}

export const ungroupParts = (sheetId: string, groupIds: readonly string[]): void => {
  if (groupIds.length) editPile(sheetId, 'Take group apart', (pile) => ungrouped(pile, groupIds))
}

/** Moves parts in the pile. */
export const liftParts = (
  sheetId: string,
  partIds: readonly string[],
  by: 'up' | 'down' | 'top' | 'bottom',
): void => {
  const names = { up: 'Part up', down: 'Part down', top: 'To the top', bottom: 'To the bottom' }
  if (partIds.length) editPile(sheetId, names[by], (pile) => lifted(pile, partIds, by))
}

export const movePartBeside = (
  sheetId: string,
  id: string,
  beside: { besideId: string; above: boolean },
): void => editPile(sheetId, 'Move in the pile', (pile) => placedBeside(pile, id, beside))

export const toggleHidden = (sheetId: string, parts: readonly Part[]): void =>
  toggle(sheetId, parts, 'hidden', ['Hide', 'Show'])
export const toggleLocked = (sheetId: string, parts: readonly Part[]): void =>
  toggle(sheetId, parts, 'locked', ['Lock', 'Unlock'])

/** Switches something on for all of some parts, or off where all of them have it. */
function toggle(
  sheetId: string,
  parts: readonly Part[],
  what: 'hidden' | 'locked',
  [on, off]: [string, string],
): void {
  if (!parts.length) return
  const all = parts.every((part) => part[what])
  const ids = new Set(parts.map(({ id }) => id))
  editSheet(sheetId, `${all ? off : on} ${namesOf(parts)}`, (sheet) => {
    for (const part of sheet.parts) if (ids.has(part.id)) part[what] = !all
  })
}

/** Places are kept to a hundredth of a millimetre when they are set by hand. */
export const tidyMm = (mm: number): number => Math.round(mm * 100) / 100
