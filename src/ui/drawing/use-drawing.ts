'use client'
import { useCallback, useEffect, useRef, useState } from 'react'

/**
 * Runs `draw` for the latest `wanted` only: while one drawing is under way, later wishes replace each other
 * and the last of them is drawn next. `late` turns true when a drawing takes longer than half a second. A drawing may
 * show something before it is done (`show`); null says that it was dropped. `drop` tells it that it is not wanted any
 * more. `forget` lets go of the wish that waits.
 */
export function useDrawing<W, R>(
  wanted: W | null,
  draw: (wanted: W, show: (result: R) => void) => Promise<R | null>,
  drop?: () => void,
): { result: R | null; late: boolean; problem: string | null; forget: () => void } {
  const [state, setState] = useState<{ result: R | null; late: boolean; problem: string | null }>({
    result: null,
    late: false,
    problem: null,
  })
  const next = useRef<W | null>(null)
  const busy = useRef(false)
  const drawer = useRef(draw)
  const alive = useRef(true)
  const dropper = useRef(drop)
  drawer.current = draw
  dropper.current = drop
  useEffect(() => {
    alive.current = true
    return () => void (alive.current = false)
  }, [])
  useEffect(() => {
    if (wanted === null) return
    next.current = wanted
    if (busy.current) return dropper.current?.()
    busy.current = true
    void (async () => {
      while (next.current !== null) {
        const now = next.current
        next.current = null
        const timer = setTimeout(() => alive.current && setState((s) => ({ ...s, late: true })), 500)
        try {
          const show = (result: R) => alive.current && setState((s) => ({ ...s, result, problem: null }))
          const result = await drawer.current(now, show)
          if (result !== null) show(result)
          if (alive.current) setState((s) => ({ ...s, late: false }))
        } catch (error) {
          if (alive.current)
            setState((s) => ({
              ...s,
              late: false,
              problem: error instanceof Error ? error.message : String(error),
            }))
        }
        clearTimeout(timer)
      }
      busy.current = false
    })()
  }, [wanted])
  const forget = useCallback(() => void (next.current = null), [])
  return { ...state, forget }
}
