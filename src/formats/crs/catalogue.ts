import { existsSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import path from 'node:path'
import type { Extent } from '@/core/geo/geometry'
import measured from './measured.json'
import { shiftOfCode } from './shifts'

/** A coordinate reference system of the EPSG list. `areaOfUse` is west, south, east, north in degrees. */
export type ReferenceSystem = {
  code: string
  name: string
  area: string
  unit: string
  areaOfUse: Extent | null
  proj4: string
  /** How good the way to WGS 84 is, in metres; null where that is not known. */
  accuracyM: number | null
}

type Entry = {
  code: string
  name: string
  area: string | null
  unit: string | null
  bbox: [number, number, number, number] | null
  proj4: string | null
  wkt: string | null
}

let list: ReferenceSystem[] | null = null

/**
 * Metres by which places of a system come out beside those of PROJ, where that is more than it is said to be good for;
 * null where no place comes out at all. Made by `scripts/measure-systems.ts`.
 */
const offBy = measured as Record<string, number | null>
/** A system that is off by more metres than this is refused: on a map of a town it would be seen. */
const mostOff = 100

/** The list lies beside the application; run from elsewhere, it is looked for from here. */
function listFile(): string {
  const beside = path.join(process.cwd(), 'node_modules', 'epsg-index', 'all.json')
  return existsSync(beside) ? beside : createRequire(import.meta.url).resolve('epsg-index/all.json')
}

const readList = (): Record<string, Entry> =>
  JSON.parse(readFileSync(listFile(), 'utf8')) as Record<string, Entry>

/** A system in well-known text, as a .prj file has it; empty where the list has none. */
export const wellKnownText = (code: string): string => readList()[code.slice(5)]?.wkt ?? ''

/** Every system that can be reckoned with, read from the list once. */
export function referenceSystems(): ReferenceSystem[] {
  list ??= unmeasuredSystems().flatMap((system) => {
    const off = offBy[system.code.slice(5)]
    if (off === undefined) return [system]
    return off === null || off > mostOff
      ? []
      : [{ ...system, accuracyM: Math.max(off, system.accuracyM ?? 0) }]
  })
  return list
}

/** Every system that has a definition here, whether what it gives is right or not. */
export function unmeasuredSystems(): ReferenceSystem[] {
  return Object.values(readList()).flatMap(({ code, name, area, unit, bbox, proj4: listed }) => {
    const reckoned = listed ? withoutGrid(code, listed) : null
    if (!reckoned) return []
    const system: ReferenceSystem = {
      code: `EPSG:${code}`,
      name,
      area: area ?? '',
      unit: unit ?? '',
      // The list gives areas of use as north, west, south, east.
      areaOfUse: bbox ? [bbox[1], bbox[2], bbox[3], bbox[0]] : null,
      ...reckoned,
    }
    return [system]
  })
}

/**
 * A definition whose way to WGS 84 needs no file of shifts: by the parameters that are published for its area, else by
 * those of the list. Null where there is none at all, so that nothing would be right.
 */
function withoutGrid(code: string, listed: string): { proj4: string; accuracyM: number | null } | null {
  // Three coordinates from the middle of the globe are none of a map.
  if (/\+proj=geocent/.test(listed)) return null
  const shift = shiftOfCode(code)
  if (shift) {
    const bare = listed
      .replace(/\s*\+(towgs84|nadgrids)=\S+/g, '')
      .replace(/\+datum=(\w+)/, (_, datum: string) => `+ellps=${ellipsoids[datum] ?? 'WGS84'}`)
    return { proj4: `${bare} +towgs84=${shift.towgs84.join(',')}`, accuracyM: shift.accuracyM }
  }
  if (/\+nadgrids=(?!@null)/.test(listed)) return null
  if (/\+(towgs84|datum|nadgrids)=/.test(listed) || /\+ellps=(GRS80|WGS84)/.test(listed))
    return { proj4: listed, accuracyM: null }
  // Spheres are no datums of this globe; nothing is lost by them.
  return /\+(R|a)=/.test(listed) && !/\+rf=/.test(listed) ? { proj4: listed, accuracyM: null } : null
}

const ellipsoids: Record<string, string> = { WGS84: 'WGS84', NAD83: 'GRS80', NAD27: 'clrk66' }

/** What the list calls a system that cannot be reckoned with here; null where it does not know the code either. */
export const unusableSystem = (code: string): string | null =>
  readList()[code.toUpperCase().replace(/^EPSG:/, '')]?.name ?? null

export const referenceSystem = (code: string): ReferenceSystem | null =>
  referenceSystems().find((system) => system.code === code.toUpperCase().replace(/^(?!EPSG:)/, 'EPSG:')) ??
  null

/** Whether one extent holds the other. */
const holds = ([w, s, e, n]: Extent, [w2, s2, e2, n2]: Extent): boolean =>
  w <= w2 && s <= s2 && e >= e2 && n >= n2
const size = ([w, s, e, n]: Extent): number => (e - w) * (n - s)

/**
 * Systems whose code, name or area of use hold every word that is looked for; those whose area of use holds
 * the data come first, the smallest area of use before larger ones.
 */
export function findReferenceSystems(words: string, extent: Extent | null, limit = 30): ReferenceSystem[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const matches = referenceSystems().filter(({ code, name, area }) => {
    const text = `${code} ${name} ${area}`.toLowerCase()
    return wanted.every((word) => text.includes(word))
  })
  const rank = (system: ReferenceSystem): number => {
    if (wanted.length === 1 && system.code === `EPSG:${wanted[0]}`) return -2
    return extent && system.areaOfUse && holds(system.areaOfUse, extent) ? size(system.areaOfUse) / 1e6 : 1
  }
  return matches
    .map((system) => ({ system, rank: rank(system) }))
    .sort((a, b) => a.rank - b.rank)
    .slice(0, limit)
    .map(({ system }) => system)
}
