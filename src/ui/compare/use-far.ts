'use client'
import { useMemo } from 'react'
import type { MapSpec } from '@/core/map/spec'
import { useDocument } from '../shell/folio-store'
import { againstWords, farMap } from './against'
import { useComparing } from './store'

export type Far = { map: MapSpec; near: string; words: string }

/** What a map is compared with across a divider, and what is said on either side of it; null for nothing. */
export function useFar(map: MapSpec | null): Far | null {
  const { maps } = useDocument()
  const against = useComparing((state) => (map ? (state.against[map.id] ?? null) : null))
  return useMemo(() => {
    const other = against && map && farMap(against, map, maps)
    const words = against && map && againstWords(against, map, maps)
    if (!other || !words || !against) return null
    const layer = against.by === 'layer' ? map.layers.find(({ id }) => id === against.layerId) : null
    return { map: other, words, near: layer ? `with ${layer.name}` : map.name }
  }, [against, map, maps])
}
