'use client'
import { useEffect, useState } from 'react'
import type { Layer } from '@/core/map/spec'
import { ask } from '@/workers/client'
import type { ShapesSaid } from '@/workers/layer-questions'
import { folioNow, useDocument } from '../../shell/folio-store'

const nothing: ShapesSaid = { remark: '', figures: [] }

/** What is to be said of the geometry that a layer's kind made: what was lost in it, and how good it is. */
export function useShapesSaid(layer: Layer): ShapesSaid {
  const { maps, datasets } = useDocument()
  const plane = maps.find(({ layers }) => layers.some(({ id }) => id === layer.id))?.projection
  const [said, setSaid] = useState(nothing)
  useEffect(() => {
    let here = true
    if (plane)
      ask(folioNow(), (worker) => worker.shapesSaid(layer, plane, true)).then(
        (words) => here && setSaid(words),
        () => undefined,
      )
    return () => void (here = false)
  }, [plane, datasets, layer])
  return said
}
