'use client'
import { useEffect, useState } from 'react'
import type { Layer } from '@/core/map/spec'
import { ask } from '@/workers/client'
import { Button } from '../../kit/controls'
import { useDocument, useFolio } from '../../shell/folio-store'

/** More than this of the symbols' area covered by others hides too much. */
const limit = 0.25

/** How much of the symbols lies under others at the scale of the view, and a size at which it is bearable. */
export function OverlapNote({ layer, onSize }: { layer: Layer; onSize: (factor: number) => void }) {
  const folio = useDocument()
  const map = folio.maps.find(({ layers }) => layers.some(({ id }) => id === layer.id))
  const view = useFolio((state) => (map ? state.views[map.id] : undefined))
  const [overlap, setOverlap] = useState<{ share: number; factor: number } | null>(null)
  useEffect(() => {
    let here = true
    const timer = setTimeout(() => {
      if (map && view)
        ask(folio, (worker) => worker.overlap(map, view, layer.id, limit)).then(
          (next) => here && setOverlap(next),
          () => undefined,
        )
    }, 200)
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [folio, map, view, layer.id])
  if (!overlap || overlap.share < 0.01) return null
  return (
    <p
      className={`flex items-center justify-between gap-2 text-xs ${overlap.factor < 1 ? 'text-caution' : 'text-muted'}`}
    >
      {(100 * overlap.share).toFixed(0)} % of their area is covered by others at this scale.
      {overlap.factor < 1 && (
        <Button
          className="!h-6 !px-1.5 !text-xs"
          title={`Covers ${limit * 100} % at most`}
          onClick={() => onSize(overlap.factor)}
        >
          Smaller
        </Button>
      )}
    </p>
  )
}
