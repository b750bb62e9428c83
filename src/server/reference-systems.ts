import type { Extent } from '@/core/geo/geometry'
import { findReferenceSystems } from '@/formats/crs/catalogue'

export type SystemCard = { code: string; name: string; area: string; unit: string; proj4: string }

export const searchReferenceSystems = (words: string, extent: Extent | null): SystemCard[] =>
  findReferenceSystems(words, extent).map(({ code, name, area, unit, proj4 }) => ({
    code,
    name,
    area,
    unit,
    proj4,
  }))
