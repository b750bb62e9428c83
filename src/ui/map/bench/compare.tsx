'use client'
import { useEffect, useMemo, useState } from 'react'
import { methods, type MethodId } from '@/core/classify/classify'
import type { Classing } from '@/core/classify/spec'
import type { Layer } from '@/core/map/spec'
import type { Way } from '@/core/map/ways'
import { ask } from '@/workers/client'
import { useDocument } from '../../shell/folio-store'
import { chooseMethod, classingOf } from '../edit-classing'
import { Gallery } from '../gallery/gallery'
import type { Looked } from '../gallery/map-picture'
import { useBenchView } from './view'

type Props = { open: boolean; onClose: () => void; looked: Looked; classing: Classing }

/** The same map with classes by every method, the best fit first. */
export function Compare({ open, onClose, looked, classing }: Props) {
  const [ways, setWays] = useState<Way[] | null>(null)
  const folio = useDocument()
  const { layer } = looked
  useEffect(() => {
    let here = true
    // Some methods take long with many areas: they are tried beside the drawing, not here.
    if (open)
      ask(folio, (worker) => worker.waysOf(layer, useBenchView.getState().which)).then(
        (next) => here && setWays(next),
        () => undefined,
      )
    return () => void (here = false)
  }, [open, folio, layer])
  const alternatives = useMemo(
    () =>
      ways &&
      ways.map(({ id, result: { gvf, counts }, smallest }) => ({
        id,
        label: methods[id].label,
        detail: `fit ${gvf.toFixed(2)} · ${counts.length} classes, smallest ${smallest}`,
        layer: layerBy(layer, id),
      })),
    [ways, layer],
  )
  return (
    <Gallery
      open={open}
      onClose={onClose}
      title="The same map by every method"
      order="Ordered by how well the classes fit."
      looked={looked}
      alternatives={alternatives}
      chosen={classing.method}
      onAdopt={(id) => chooseMethod(layer, [], id as MethodId)}
    />
  )
}

/** The layer as it would be with another method. */
function layerBy(layer: Layer, method: MethodId): Layer {
  const changed = structuredClone(layer)
  Object.assign(classingOf(changed) ?? {}, { method, unclassed: null })
  return changed
}
