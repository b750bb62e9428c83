'use client'
import type { Draft } from 'immer'
import { create } from 'zustand'
import { amend, edit, redo, seal, startHistory, undo, type History } from '@/core/folio/history'
import type { Folio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import { keepInStep } from '@/core/map/share'
import type { MapView } from '@/core/map/spec'

export const desks = ['data', 'map', 'sheet', 'proof'] as const
export type Desk = (typeof desks)[number]

export type SaveState =
  | { status: 'saved'; at: string }
  | { status: 'unsaved' }
  | { status: 'saving' }
  | { status: 'refused'; revision: number; changedAt: string }
  /** `message` is a whole sentence. */
  | { status: 'failed'; message: string }

/** A save as it is sent, with the key by which the server knows it when it comes again. */
export type SaveAttempt = { folio: Folio; baseRevision: number; label: string; saveKey: string }

export type Selection = {
  datasetId: string | null
  mapId: string | null
  layerId: string | null
  sheetId: string | null
  /** Parts of the sheet, the one chosen last at the end. */
  partIds: string[]
}

type FolioState = {
  history: History
  revision: number
  save: SaveState
  /** A save that was sent and whose answer never came. */
  unanswered: SaveAttempt | null
  desk: Desk
  selection: Selection
  /** Where each map is looked at; part of the work, not of the document. */
  views: Record<string, MapView>
  notice: { text: string; undo: boolean } | null
  edit: (name: string, recipe: (draft: Draft<Folio>) => void, merge?: string) => void
  amend: (recipe: (draft: Draft<Folio>) => void) => void
  seal: () => void
  undo: () => void
  redo: () => void
  /** Puts another version in place of the folio; it can be undone. */
  replace: (name: string, folio: Folio) => void
  /** Takes over what the server has, with a fresh history. */
  adopt: (folio: Folio, revision: number, at: string) => void
  select: (selection: Partial<Selection>) => void
  openDesk: (desk: Desk) => void
  setView: (mapId: string, view: MapView) => void
  setSave: (save: SaveState, revision?: number) => void
  setUnanswered: (attempt: SaveAttempt | null) => void
  tell: (text: string, canUndo?: boolean) => void
  hush: () => void
}

const firstSelection = (folio: Folio): Selection => {
  const map = folio.maps[0] ?? null
  const layer = map?.layers.find((l) => l.inLegend) ?? map?.layers[0] ?? null
  return {
    datasetId: folio.datasets[0]?.id ?? null,
    mapId: map?.id ?? null,
    layerId: layer?.id ?? null,
    sheetId: folio.sheets[0]?.id ?? null,
    partIds: [],
  }
}

const unsaved: SaveState = { status: 'unsaved' }

export const useFolio = create<FolioState>()((set) => ({
  history: startHistory(emptyFolio('', ' ')),
  revision: 0,
  save: { status: 'saved', at: '' },
  unanswered: null,
  desk: 'data',
  selection: { datasetId: null, mapId: null, layerId: null, sheetId: null, partIds: [] },
  views: {},
  notice: null,
  edit: (name, recipe, merge) =>
    set((state) => {
      const before = state.history.folio
      const withShares = (draft: Draft<Folio>) => {
        recipe(draft)
        keepInStep(before, draft)
      }
      return changed(state, edit(state.history, name, withShares, merge ?? null))
    }),
  amend: (recipe) => set((state) => changed(state, amend(state.history, recipe))),
  seal: () => set((state) => ({ history: seal(state.history) })),
  undo: () => set((state) => changed(state, undo(state.history))),
  redo: () => set((state) => changed(state, redo(state.history))),
  replace: (name, folio) =>
    set((state) =>
      changed(
        state,
        edit(state.history, name, (draft) => {
          Object.assign(draft, { ...folio, id: draft.id })
        }),
      ),
    ),
  adopt: (folio, revision, at) =>
    set({
      history: startHistory(folio),
      revision,
      save: { status: 'saved', at },
      unanswered: null,
      selection: firstSelection(folio),
      views: {},
      notice: null,
    }),
  select: (selection) => set((state) => ({ selection: { ...state.selection, ...selection } })),
  openDesk: (desk) => set({ desk }),
  setView: (mapId, view) => set((state) => ({ views: { ...state.views, [mapId]: view } })),
  setSave: (save, revision) => set((state) => ({ save, revision: revision ?? state.revision })),
  setUnanswered: (unanswered) => set({ unanswered }),
  tell: (text, canUndo = false) => set({ notice: { text, undo: canUndo } }),
  hush: () => set({ notice: null }),
}))

const changed = (state: FolioState, history: History): Partial<FolioState> =>
  history === state.history ? {} : { history, save: state.save.status === 'refused' ? state.save : unsaved }

export const useDocument = (): Folio => useFolio((state) => state.history.folio)
/** The folio at this moment, for what happens later than it was asked for. */
export const folioNow = (): Folio => useFolio.getState().history.folio
/** Puts what was found out about the folio into it; no step of undo. */
export const amendFolio = (recipe: (draft: Draft<Folio>) => void): void => useFolio.getState().amend(recipe)
export const editFolio = (name: string, recipe: (draft: Draft<Folio>) => void, merge?: string): void =>
  useFolio.getState().edit(name, recipe, merge)
