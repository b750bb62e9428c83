'use client'
import { wrap, type Remote } from 'comlink'
import type { Folio } from '@/core/folio/schema'
import type { SceneApi } from './scene.worker'

let remote: Remote<SceneApi> | null = null
let sent: Folio | null = null
let arriving: Promise<void> = Promise.resolve()

/** The worker that composes and draws. */
export function scenes(): Remote<SceneApi> {
  remote ??= wrap<SceneApi>(new Worker(new URL('./scene.worker.ts', import.meta.url), { type: 'module' }))
  return remote
}

/** Hands the folio to the worker once for each change; resolves when it has arrived. */
export function sendFolio(folio: Folio): Promise<void> {
  if (sent !== folio) {
    sent = folio
    arriving = scenes().setFolio(folio)
  }
  return arriving
}
