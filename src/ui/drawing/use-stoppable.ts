'use client'
import { proxy } from 'comlink'
import { useCallback, useRef, useState } from 'react'
import type { Drawn } from '@/workers/scene.worker'
import { ask } from '@/workers/client'
import { folioNow } from '../shell/folio-store'

/** A drawing that takes long: how far it is (0 to 1, null while nobody knows), and whether somebody stopped it. */
export type Stoppable = {
  share: number | null
  halted: boolean
  /** Changes when it is asked for again after it was stopped. */
  again: number
  /** What the worker tells how far it is; from here on it may be stopped. */
  begin: () => (share: number) => void
  end: () => void
  wasDropped: () => boolean
  /** It is not wanted any more. */
  drop: () => void
  /** Somebody stops it. */
  stop: () => void
  restart: () => void
}

export function useStoppable(what: Drawn): Stoppable {
  const [share, setShare] = useState<number | null>(null)
  const [halted, setHalted] = useState(false)
  const [again, setAgain] = useState(0)
  const dropped = useRef(false)
  const begin = useCallback(() => {
    dropped.current = false
    setHalted(false)
    return proxy((now: number) => setShare(now))
  }, [])
  const end = useCallback(() => setShare(null), [])
  const wasDropped = useCallback(() => dropped.current, [])
  const drop = useCallback(() => {
    dropped.current = true
    void ask(folioNow(), (worker) => worker.drop(what)).catch(() => undefined)
  }, [what])
  const stop = useCallback(() => {
    setHalted(true)
    drop()
  }, [drop])
  const restart = useCallback(() => setAgain((times) => times + 1), [])
  return { share, halted, again, begin, end, wasDropped, drop, stop, restart }
}
