'use client'
import { useEffect, useRef, useSyncExternalStore } from 'react'
import type { Prepared } from '@/core/data/prepare'
import { planKey } from '@/core/map/layer-plan'
import type { Layer } from '@/core/map/spec'
import { ask } from '@/workers/client'
import { folioNow } from '../shell/folio-store'

/** A plan with the layer and rows that it was made for; what is shown of a layer goes by these together. */
export type Planned = { layer: Layer; prepared: Prepared; plan: unknown }

/** Plans that have arrived, by what they were made from; the oldest go first. */
const arrived = new Map<string, { plan: unknown }>()
const most = 60
const wanted = new Set<string>()
const listeners = new Set<() => void>()
let version = 0

function arrive(key: string, plan: unknown): void {
  arrived.set(key, { plan })
  if (arrived.size > most) arrived.delete(arrived.keys().next().value as string)
  version++
  for (const listener of listeners) listener()
}

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** Asks the worker for a plan, once; rows that have changed meanwhile ask again by themselves. */
function want(key: string, layer: Layer, rowCount: number): void {
  if (arrived.has(key) || wanted.has(key)) return
  wanted.add(key)
  ask(folioNow(), (worker) => worker.planOf(layer))
    .then((answer) => answer?.rowCount === rowCount && arrive(key, answer.plan))
    .catch(() => undefined)
    .finally(() => wanted.delete(key))
}

/**
 * The plan of a layer, made in the worker, where it is drawn from as well. While one is under way, the one before
 * of the same layer and kind stays; null as long as there is none.
 */
export function usePlan(layer: Layer | undefined, prepared: Prepared | undefined): Planned | null {
  useSyncExternalStore(
    subscribe,
    () => version,
    () => version,
  )
  const last = useRef<Planned | null>(null)
  const key = layer && prepared ? planKey(layer, prepared) : null
  useEffect(() => {
    if (key && layer && prepared) want(key, layer, prepared.dataset.rowCount)
  }, [key, layer, prepared])
  if (!key || !layer || !prepared) return null
  const known = arrived.get(key)
  if (known) last.current = { layer, prepared, plan: known.plan }
  const kept = last.current
  const same = kept?.layer.id === layer.id && kept.layer.symbology.kind === layer.symbology.kind
  return same && kept.layer.datasetId === layer.datasetId ? kept : null
}
