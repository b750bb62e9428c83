'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import { Clip, clipOf, pasted } from '@/core/sheet/clip'
import type { Point } from '@/core/sheet/frame'
import type { Part, Sheet } from '@/core/sheet/spec'
import type { Folio } from '@/core/folio/schema'
import { editFolio, folioNow, useFolio } from '../shell/folio-store'
import { deleteParts } from './edit-sheet'

/** Kept by the browser, so that parts go from one folio to another one, also in another window. */
const place = 'keen-parts'

export function copyParts(sheet: Sheet, parts: readonly Part[]): void {
  if (!parts.length) return
  const clip = clipOf(
    folioNow(),
    sheet,
    parts.map(({ id }) => id),
  )
  const { tell } = useFolio.getState()
  try {
    localStorage.setItem(place, JSON.stringify(clip))
    tell(`${parts.length === 1 ? `“${parts[0].name}” was` : `${parts.length} parts were`} copied.`)
  } catch {
    tell('This browser keeps no more: what was to be copied is too large.')
  }
}

export function cutParts(sheet: Sheet, parts: readonly Part[]): void {
  copyParts(sheet, parts)
  deleteParts(sheet.id, parts)
}

const clipNow = (): Clip | null => {
  try {
    return Clip.parse(JSON.parse(localStorage.getItem(place) ?? 'null'))
  } catch {
    return null
  }
}

/** Puts what was copied onto a sheet: under a place on the page, or where it was. */
export function pasteParts(sheet: Sheet, at: Point | null): void {
  const { select, tell } = useFolio.getState()
  const clip = clipNow()
  if (!clip?.parts.length) return tell('There are no parts to paste: copy some first.')
  const added = pasted(clip, folioNow(), { sheet, newId: () => nanoid(8), at })
  const count = added.parts.length
  editFolio(`Paste ${count === 1 ? added.parts[0].name : `${count} parts`}`, (draft: Draft<Folio>) => {
    const target = draft.sheets.find(({ id }) => id === sheet.id)
    if (!target) return
    target.parts.push(...(added.parts as Draft<Part>[]))
    target.groups.push(...added.groups)
    draft.maps.push(...(added.maps as Draft<Folio['maps'][number]>[]))
    draft.datasets.push(...(added.datasets as Draft<Folio['datasets'][number]>[]))
    draft.pictures.push(...added.pictures)
    draft.typeStyles.push(...added.typeStyles)
  })
  select({ partIds: added.parts.map(({ id }) => id) })
  const came = [
    added.maps.length && `${added.maps.length} ${added.maps.length === 1 ? 'map' : 'maps'}`,
    added.datasets.length &&
      `${added.datasets.length} ${added.datasets.length === 1 ? 'dataset' : 'datasets'}`,
  ].filter(Boolean)
  if (added.doubts.length)
    tell(`Look at ${added.doubts.join(', ')}: it draws on data that are others here, or missing.`, true)
  else if (came.length) tell(`With it came ${came.join(' and ')}.`, true)
}
