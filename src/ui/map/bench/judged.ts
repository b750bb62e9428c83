'use client'
import { useEffect, useState } from 'react'
import type { Judgement } from '@/core/map/ways'
import type { Layer } from '@/core/map/spec'
import { ask } from '@/workers/client'
import { useDocument } from '../../shell/folio-store'
import { useBenchView } from './view'

/** While breaks are dragged, figures that take long with many areas wait until they rest. */
const restMs = 120

/**
 * What is said of a layer's classes; reckoned beside the drawing, so what was said before stays until it is
 * there.
 */
export function useJudged(layer: Layer): Judgement | null {
  const folio = useDocument()
  const which = useBenchView((state) => state.which)
  const [judged, setJudged] = useState<Judgement | null>(null)
  useEffect(() => {
    let here = true
    const timer = setTimeout(() => {
      ask(folio, async (worker) => (here ? worker.judge(layer, which) : null)).then(
        (figures) => here && setJudged(figures),
        () => undefined,
      )
    }, restMs)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [folio, layer, which])
  return judged
}
