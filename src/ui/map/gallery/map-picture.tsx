'use client'
import pLimit from 'p-limit'
import { useEffect, useRef, useState } from 'react'
import type { Prepared } from '@/core/data/prepare'
import type { Layer, MapSpec, MapView } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { mmPerPx } from '@/core/scene/units'
import { ask } from '@/workers/client'
import { useDocument } from '../../shell/folio-store'
import type { SizePx } from '../viewing'

/** What a small picture is taken of: a map as it is looked at, and the layer in it that is tried out. */
export type Looked = {
  map: MapSpec
  /** What the window of the map shows, and how large it is; null shows the whole layer. */
  seen: { view: MapView; window: SizePx } | null
  layer: Layer
  prepared: Prepared
}

/** The map with a layer as it would be; what lies over it, such as names, is left out of a small picture. */
function mapWith(map: MapSpec, layer: Layer): MapSpec {
  return {
    ...map,
    layers: [layer, ...map.layers.slice(map.layers.findIndex(({ id }) => id === layer.id) + 1)],
  }
}

/**
 * What a small picture shows: what the window of the map does, and where that is more than the layer covers, as
 * in the whole map with its seas, the layer alone.
 */
function viewOfPicture({ map, seen, layer, prepared }: Looked, size: SizePx): MapView | null {
  const window = { width: size.width * mmPerPx, height: size.height * mmPerPx }
  const alone = { ...map, layers: [layer] }
  const fitted = fitMap(alone, new Map([[layer.datasetId, prepared]]), window, 0.03)
  if (!seen) return fitted
  const smaller = Math.max(seen.window.width / size.width, seen.window.height / size.height)
  const shrunk = { ...seen.view, scaleDenominator: seen.view.scaleDenominator * smaller }
  return fitted && fitted.scaleDenominator < shrunk.scaleDenominator ? fitted : shrunk
}

/** Pictures are drawn one at a time, so that those that are scrolled away or closed before their turn are left out. */
const inTurn = pLimit(1)

/** Whether an element has come into sight; once it has, it stays so. */
function useSeen(element: React.RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    if (!element.current) return
    const watch = new IntersectionObserver(([entry]) => entry.isIntersecting && setSeen(true), {
      rootMargin: '80px',
    })
    watch.observe(element.current)
    return () => watch.disconnect()
  }, [element])
  return seen
}

/** A map with one layer as it would be. */
export function MapPicture({
  looked,
  as,
  size,
  reduced = 1,
}: {
  looked: Looked
  as: Layer
  size: SizePx
  /** How often larger the map is drawn than it is shown: its lines and symbols are those of a page. */
  reduced?: number
}) {
  const folio = useDocument()
  const canvas = useRef<HTMLCanvasElement>(null)
  const { map, seen, layer, prepared } = looked
  const text = JSON.stringify(as)
  const inSight = useSeen(canvas)
  useEffect(() => {
    if (!inSight) return
    let here = true
    void inTurn(async () => {
      if (!here) return
      const large = { width: size.width * reduced, height: size.height * reduced }
      const shown = viewOfPicture({ map, seen, layer, prepared }, large)
      if (!shown) return
      const picture = {
        widthPx: large.width,
        heightPx: large.height,
        ratio: (window.devicePixelRatio || 1) / reduced,
      }
      const wanted = mapWith(map, JSON.parse(text) as Layer)
      const drawn = await ask(folio, (worker) => worker.drawMap(wanted, shown, picture)).catch(() => null)
      if (!here || !canvas.current || !drawn) return
      const { bitmap } = drawn
      canvas.current.width = bitmap.width
      canvas.current.height = bitmap.height
      canvas.current.getContext('2d')?.drawImage(bitmap, 0, 0)
    })
    return () => void (here = false)
  }, [inSight, folio, map, seen, layer, prepared, text, size, reduced])
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="block w-full"
      style={{ aspectRatio: `${size.width} / ${size.height}`, background: map.background }}
    />
  )
}
