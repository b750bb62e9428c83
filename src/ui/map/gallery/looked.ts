'use client'
import { useMemo } from 'react'
import type { Prepared } from '@/core/data/prepare'
import type { Layer } from '@/core/map/spec'
import { useDocument } from '../../shell/folio-store'
import type { Looked } from './map-picture'

/** The map of a layer as a gallery shows it, whole; null where the layer is on none. */
export function useLooked(layer: Layer, prepared: Prepared): Looked | null {
  const { maps } = useDocument()
  const map = maps.find(({ layers }) => layers.some(({ id }) => id === layer.id)) ?? null
  return useMemo(() => map && { map, seen: null, layer, prepared }, [map, layer, prepared])
}
