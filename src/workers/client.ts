'use client'
import { wrap, type Remote } from 'comlink'
import type { Chain } from '@/core/data/prepare'
import type { Folio } from '@/core/folio/schema'
import { createSender } from './parcels'
import { preparation, prepare } from './preparing'
import type { SceneApi } from './scene.worker'

let remote: Remote<SceneApi> | null = null
let sent: { folio: Folio; chains: Map<string, Chain> } | null = null
let arriving: Promise<void> = Promise.resolve()
const pack = createSender()

/** The worker that composes and draws. */
export function scenes(): Remote<SceneApi> {
  remote ??= wrap<SceneApi>(new Worker(new URL('./scene.worker.ts', import.meta.url), { type: 'module' }))
  return remote
}

/** Long steps are not waited for: what was prepared before is drawn until they are done. */
const patienceMs = 300

/**
 * Hands the folio to the worker with its prepared datasets, once for each change; resolves when it has
 * arrived.
 */
export async function sendFolio(folio: Folio): Promise<void> {
  const preparing = prepare(folio.datasets)
  if (preparation.get().of)
    await Promise.race([preparing, new Promise((resolve) => setTimeout(resolve, patienceMs))])
  else await preparing
  const { chains } = preparation.get()
  if (sent?.folio !== folio || sent.chains !== chains) {
    sent = { folio, chains }
    // The stages in between are of no use for drawing.
    arriving = scenes().setFolio(
      folio,
      pack(new Map([...chains].map(([id, chain]) => [id, { ...chain, stages: [] }]))),
    )
  }
  return arriving
}
