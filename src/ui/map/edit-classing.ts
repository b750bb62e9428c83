'use client'
import type { Draft } from 'immer'
import { methods, type MethodId } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import { maxClasses, minClasses, type Classing } from '@/core/classify/spec'
import { kindOf } from '@/core/kinds/registry'
import { shareOf, takeScheme } from '@/core/map/share'
import type { Layer } from '@/core/map/spec'
import { nanoid } from 'nanoid'
import type { Prepared } from '@/core/data/prepare'
import { ask } from '@/workers/client'
import { editFolio, folioNow } from '../shell/folio-store'
import { useBenchView } from './bench/view'
import { editLayer } from './edit-map'

/**
 * The settings of the classes that are on the bench: those of the field at `which`, for kinds that have some.
 */
export function classingOf({ symbology }: Layer, which = useBenchView.getState().which): Classing | null {
  const classings = kindOf(symbology.kind).classings(symbology.settings)
  return classings[Math.min(which, classings.length - 1)] ?? null
}

/** Changes how a layer's values are put into classes, whatever its kind. */
export function changeClassing(
  layer: Layer,
  name: string,
  recipe: (classing: Draft<Classing>) => void,
  merge?: string,
): void {
  editLayer(
    layer.id,
    name,
    (draft) => {
      const classing = classingOf(draft as Layer)
      if (classing) recipe(classing as Draft<Classing>)
    },
    merge,
  )
}

/** Choosing a method. Going to breaks set by hand starts from the breaks that are there. */
export function chooseMethod(layer: Layer, breaks: number[], method: MethodId): void {
  changeClassing(layer, `Classify by ${methods[method].label}`, (s) => {
    if (method === 'manual' && s.method !== 'manual') s.manualBreaks = breaks.slice(1, -1)
    s.method = method
    s.unclassed = null
  })
}

/** Areas from which on a method that goes by borders or ground is tried out beside the drawing first. */
const many = 3000

/** The same, without holding up the window while a method that takes long is tried out. */
export async function chooseMethodOf(
  layer: Layer,
  prepared: Prepared,
  breaks: number[],
  method: MethodId,
): Promise<void> {
  if (methods[method].needs === 'areas' && prepared.dataset.rowCount > many) {
    const { which } = useBenchView.getState()
    await ask(folioNow(), (worker) => worker.readyMethod(layer, which, method))
  }
  chooseMethod(layer, breaks, method)
}

export function chooseClasses(layer: Layer, classes: number): void {
  changeClassing(layer, `${numberWord(classes)} classes`, (s) => {
    if (s.method === 'manual') s.method = 'natural-breaks'
    s.classes = Math.min(maxClasses, Math.max(minClasses, classes))
    s.step = null
    s.unclassed = null
  })
}

/**
 * One scheme for two layers: the other one takes over this layer's, and from then on a change in either is
 * one in both.
 */
export function shareWith(layer: Layer, other: Layer): void {
  const id = shareOf(layer)?.id ?? nanoid(8)
  editFolio(`Share classes with ${other.name}`, (draft) => {
    const [one, two] = [layer.id, other.id].map((wanted) =>
      draft.maps.flatMap((map) => map.layers).find((l) => l.id === wanted),
    )
    if (!one || !two) return
    const settings = one.symbology.settings as Draft<Classing>
    settings.share ??= { id, over: 'all', members: [] }
    takeScheme(two as Layer, one as Layer)
  })
}

export const shareNoMore = (layer: Layer): void =>
  editLayer(
    layer.id,
    'Classes by itself',
    (draft) => void ((draft.symbology.settings as Draft<Classing>).share = null),
  )
