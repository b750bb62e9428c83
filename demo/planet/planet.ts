import { createNoise3D } from 'simplex-noise'
import type { Feature, MultiPolygon, Position } from 'geojson'
import { geoArea } from 'd3-geo'
import { nameMaker } from '../lindmere/names'
import { pick, seededRandom, type Random } from '../lindmere/random'
import {
  around,
  degreesApart,
  fromDegrees,
  ringsOf,
  roughen,
  scatter,
  tile,
  toDegrees,
  type Tiling,
  type Vector,
} from './sphere'

/**
 * Vintarra, a planet as hard as data get: 220 states, among them one around the south pole, one that is a band
 * around that, several that meet at the north pole, one over more than half of a hemisphere with an enclave in
 * an enclave in it (and a piece of itself within those), one with parts on both sides of the date line, and
 * 3,000 islands. Rings run along the sphere without a cut, anticlockwise outside.
 */
export type State = {
  /** Three figures, with leading zeros. */
  id: string
  /** Three letters. */
  code: string
  name: string
  /** How offices that publish statistics call it; not always the same. */
  officialName: string
  land: string
}
export type Planet = {
  states: Feature<MultiPolygon, State>[]
  cities: City[]
}
export type City = { name: string; lon: number; lat: number; population: number; state: string }

export type PlanetOptions = {
  /** Borders are broken into pieces no longer than this, degrees. */
  finest: number
  /** Decimals of coordinates, which are degrees. */
  decimals: number
  cities: number
}
export const smallPlanet: PlanetOptions = { finest: 0.8, decimals: 2, cities: 420 }
/** About 600,000 vertices. */
export const finePlanet: PlanetOptions = { finest: 0.026, decimals: 4, cities: 120_000 }

const stateCount = 220
const islandCount = 3000
const cellCount = 10_000
const cellDegrees = 2.05

const southPole: Vector = [0, 0, -1]
const northPole: Vector = [0, 0, 1]
const interior = fromDegrees([62, 4])
const enclave = fromDegrees([78, 22])
/** Wide land besides the interior: where, and how far it reaches in degrees. */
const continents: [Vector, number][] = [
  [fromDegrees([179, 38]), 24],
  [fromDegrees([-68, 22]), 31],
  [fromDegrees([-96, -31]), 21],
  [fromDegrees([-22, 58]), 15],
  [fromDegrees([174, -24]), 14],
  [northPole, 15],
]
const twins: Vector[] = [fromDegrees([172.5, -52]), fromDegrees([-171.5, -54])]

/** States that are made by hand; all others grow. */
const special = { polar: 0, band: 1, interior: 2, enclave: 3, inner: 4, twins: 5 }
const specials = Object.keys(special).length

export function makePlanet({ finest, decimals, cities }: PlanetOptions, seed = 41): Planet {
  const random = seededRandom(seed)
  const tiling = tile(scatter(cellCount, random))
  const owner = share(tiling, seed, random)
  const islands = placeIslands(tiling, owner, random)
  const rings = partRings(tiling, owner, finest)
  const round = (place: Vector): Position => {
    const [lon, lat] = toDegrees(place).map((v) => Number(v.toFixed(decimals)))
    // The date line has one name.
    return [lon === -180 ? 180 : lon, lat]
  }
  const closed = (ring: Vector[]): Position[] => {
    const out: Position[] = []
    for (const place of ring) {
      const next = round(place)
      const last = out[out.length - 1]
      if (!last || next[0] !== last[0] || next[1] !== last[1]) out.push(next)
    }
    while (out.length > 1 && out[0][0] === out[out.length - 1][0] && out[0][1] === out[out.length - 1][1])
      out.pop()
    return [...out, out[0]]
  }
  const polygons: Position[][][][] = Array.from({ length: stateCount }, () => [])
  for (const { state, parts } of rings) polygons[state].push(parts.map(closed))
  islands.forEach(({ at, degrees, state }, i) => {
    const corners = Array.from({ length: 6 }, (_, k) => around(at, degrees * (0.6 + 0.4 * random()), 60 * k))
    const ring = corners.flatMap((corner, k) =>
      roughen(corner, corners[(k + 1) % 6], { amount: 0.15, finest, id: 100_000 + 6 * i + k, node: 1 }).slice(
        0,
        -1,
      ),
    )
    const outline = closed(ring)
    if (outline.length >= 4) polygons[state].push([isAnticlockwise(outline) ? outline : outline.reverse()])
  })
  const states = nameStates(random).map((properties, i): Feature<MultiPolygon, State> => ({
    type: 'Feature',
    id: properties.id,
    properties,
    geometry: { type: 'MultiPolygon', coordinates: polygons[i] },
  }))
  return { states, cities: placeCities(tiling, owner, { count: cities, states, decimals }) }
}

/** The state of every cell, −1 for the sea. */
function share(tiling: Tiling, seed: number, random: Random): Int32Array {
  const noise = createNoise3D(seededRandom(seed + 1))
  const rough = (p: Vector, size: number): number =>
    noise(p[0] * size, p[1] * size, p[2] * size) +
    0.5 * noise(p[0] * 2 * size, p[1] * 2 * size, p[2] * 2 * size)
  const owner = new Int32Array(tiling.sites.length).fill(-1)
  const free: number[] = []
  tiling.sites.forEach((site, cell) => {
    const ragged = 2.5 * rough(site, 3)
    const south = degreesApart(site, southPole) + ragged
    const inEnclave = degreesApart(site, enclave)
    if (south < 15) owner[cell] = special.polar
    else if (south < 22) owner[cell] = special.band
    else if (inEnclave < 2) owner[cell] = special.interior
    else if (inEnclave < 6) owner[cell] = special.inner
    else if (inEnclave < 10) owner[cell] = special.enclave
    else if (degreesApart(site, interior) + 2 * ragged < 62) owner[cell] = special.interior
    else if (twins.some((twin) => degreesApart(site, twin) < 4)) owner[cell] = special.twins
    else if (continents.some(([centre, reach]) => degreesApart(site, centre) + 3 * ragged < reach))
      free.push(cell)
  })
  const seeds = new Set<number>()
  while (seeds.size < stateCount - specials) seeds.add(pick(random, free))
  grow(tiling, owner, { free: new Set(free), seeds: [...seeds], random })
  return owner
}

/** Land that is not shared yet goes to the seeds, each growing cell by cell; what none reaches to the nearest. */
function grow(
  { sites, neighbours }: Tiling,
  owner: Int32Array,
  { free, seeds, random }: { free: Set<number>; seeds: number[]; random: Random },
): void {
  const edge: number[] = []
  seeds.forEach((cell, i) => {
    owner[cell] = specials + i
    edge.push(cell)
  })
  while (edge.length) {
    const at = Math.floor(random() * edge.length)
    const cell = edge[at]
    const open = neighbours[cell].filter((other) => free.has(other) && owner[other] < 0)
    if (open.length) {
      const other = pick(random, open)
      owner[other] = owner[cell]
      edge.push(other)
    } else {
      edge[at] = edge[edge.length - 1]
      edge.pop()
    }
  }
  for (const cell of free)
    if (owner[cell] < 0) {
      let best = 0
      seeds.forEach((seed, i) => {
        if (degreesApart(sites[cell], sites[seed]) < degreesApart(sites[cell], sites[seeds[best]])) best = i
      })
      owner[cell] = specials + best
    }
}

/** Rings of every connected part, the outer one first. */
function partRings(
  tiling: Tiling,
  owner: Int32Array,
  finest: number,
): { state: number; parts: Vector[][] }[] {
  const part = new Int32Array(owner.length).fill(-1)
  const states: number[] = []
  owner.forEach((state, cell) => {
    if (state < 0 || part[cell] >= 0) return
    const members = [cell]
    part[cell] = states.length
    for (const member of members)
      for (const other of tiling.neighbours[member])
        if (owner[other] === state && part[other] < 0) {
          part[other] = states.length
          members.push(other)
        }
    states.push(state)
  })
  return [...ringsOf(tiling, part, { amount: 0.16, finest })]
    .sort(([a], [b]) => a - b)
    .map(([label, rings]) => ({
      state: states[label],
      parts: rings
        .map((ring) => ({ ring, size: leftArea(ring) }))
        .sort((a, b) => a.size - b.size)
        .map(({ ring }) => ring),
    }))
}

/** The area to the left of a ring, in steradians. */
const leftArea = (ring: Vector[]): number => areaOf(ring.map(toDegrees).reverse())
const areaOf = (places: Position[]): number =>
  geoArea({ type: 'Polygon', coordinates: [[...places, places[0]]] })
const isAnticlockwise = (ring: Position[]): boolean => areaOf([...ring].reverse()) < 2 * Math.PI

type Island = { at: Vector; degrees: number; state: number }

/** Islands in swarms off the coasts, five to a cell of the sea, each of the state that lies nearest. */
function placeIslands({ sites, neighbours }: Tiling, owner: Int32Array, random: Random): Island[] {
  const nearest = owner.slice()
  let edge = [...owner.keys()].filter(
    (cell) => owner[cell] >= special.interior && owner[cell] !== special.enclave,
  )
  const sea: number[] = []
  while (edge.length) {
    const next: number[] = []
    for (const cell of edge)
      for (const other of neighbours[cell])
        if (nearest[other] < 0) {
          nearest[other] = nearest[cell]
          next.push(other)
          sea.push(other)
        }
    edge = next
  }
  const out: Island[] = []
  const used = new Set<number>()
  while (out.length < islandCount) {
    // Most lie near a coast.
    const start = sea[Math.floor(sea.length * random() ** 2)]
    for (const cell of [start, ...neighbours[start]]) {
      if (owner[cell] >= 0 || nearest[cell] < 0 || used.has(cell)) continue
      used.add(cell)
      // Well inside the cell, whose border may be a ragged coast.
      const room = Math.min(...neighbours[cell].map((n) => degreesApart(sites[cell], sites[n]))) / 2 - 0.25
      if (room < 0.3) continue
      const count = 1 + Math.floor(5 * random())
      const turn = 360 * random()
      for (let k = 0; k < count && out.length < islandCount; k++)
        out.push({
          at: around(sites[cell], 0.6 * room, turn + 72 * k),
          degrees: room * (0.08 + 0.17 * random()),
          state: nearest[cell],
        })
    }
  }
  return out
}

const lands = ['Sunward', 'Meridian', 'Leeward', 'Northern', 'Southern']

function nameStates(random: Random): State[] {
  const { word } = nameMaker(seededRandom(977))
  const codes = new Set<string>()
  return Array.from({ length: stateCount }, (_, i): State => {
    const plain = word()
    const name = i % 19 === 7 ? `St. ${plain}` : accented(plain, i)
    const letters = plain.toUpperCase()
    let code = letters.slice(0, 3)
    for (let k = 2; codes.has(code); k++) code = letters.slice(0, 2) + String.fromCharCode(65 + (k % 26))
    codes.add(code)
    return {
      id: String(4 + 4 * i).padStart(3, '0'),
      code,
      name,
      officialName: officialName(plain, name, i),
      land: pick(random, lands),
    }
  })
}

const accented = (name: string, i: number): string =>
  i % 13 === 4 ? name.replace(/[aeo]/, (letter) => ({ a: 'á', e: 'é', o: 'ö' })[letter] ?? letter) : name

function officialName(plain: string, name: string, i: number): string {
  if (name.startsWith('St. ')) return `Saint ${plain}`
  if (i % 17 === 3) return `Republic of ${name}`
  return i % 29 === 11 ? `${name} (Kingdom of)` : plain
}

function placeCities(
  { sites }: Tiling,
  owner: Int32Array,
  { count, states, decimals }: { count: number; states: Feature<MultiPolygon, State>[]; decimals: number },
): City[] {
  const random = seededRandom(1213)
  const { place } = nameMaker(random)
  const homes = [...owner.keys()].filter((cell) => owner[cell] >= 0)
  return Array.from({ length: count }, (_, i): City => {
    const cell = pick(random, homes)
    const [lon, lat] = toDegrees(around(sites[cell], 0.3 * cellDegrees * random(), 360 * random()))
    return {
      // Invented names run out; after them cities are numbered.
      name: i < 3000 ? place() : `City ${i + 1}`,
      lon: Number(lon.toFixed(decimals)),
      lat: Number(lat.toFixed(decimals)),
      population: Math.round(Math.exp(9 + 6.5 * random() ** 2)),
      state: states[owner[cell]].properties.id,
    }
  })
}
