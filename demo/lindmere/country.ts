import { geoArea } from 'd3-geo'
import { coverTiff, reliefTiff, type Made } from './relief'
import { makeTerrain } from './terrain'
import { featureAt } from '@/core/geo/feature-at'
import { topology } from 'topojson-server'
import type { Feature, FeatureCollection, Geometry, MultiPolygon, Point, Polygon } from 'geojson'
import { numberColumn, textColumn } from '@/core/data/column'
import { geometryFromShapes } from '@/core/geo/shapes'
import { writeShapefile } from '@/formats/writers/shapefile'
import { libraryRows, loanRows, readerRows, roadFeatures, routeFeatures, subjectRows } from './lending'
import { centres, makeLand, type Land } from './land'
import { degreesOf, fromLonLat, polygonsOf, regionRings, toLonLat, type Km } from './mesh'
import { nameMaker } from './names'
import { normal, seededRandom, type Random } from './random'
import { districtNeighbours, growDistricts, nearestSeed } from './regions'
import { districtReturns, returnColumns, spoilCodes, type DistrictFacts } from './statistics'
import { makeLakes, makeRivers } from './water'

export const lindmereSeed = 20251124

const roughness = { inland: 0.13, coast: 0.2, finestKm: 0.8 }
const districtCount = 164
const provinceCount = 9

export type Country = {
  /** Every file of the demo by name, text or bytes, but for the relief. */
  files: Record<string, string | Uint8Array>
  /** Makes the heights of the land and what covers it, GeoTIFFs both; this takes some twenty seconds. */
  ground: () => { relief: Uint8Array; cover: Uint8Array }
}

/** The country. The same seed gives the same files. */
export function lindmere(seed = lindmereSeed): Country {
  const random = seededRandom(seed)
  const land = makeLand(seed)
  const names = nameMaker(random)
  const { labels, seeds } = growDistricts(land, random, districtCount)
  const provinceOf = makeProvinces(land, labels, seeds)
  const provinceLabels = labels.map((label) => (label < 0 ? -1 : provinceOf[label]))
  const provinceNames = Array.from({ length: provinceCount }, () => names.word())
  const order = readingOrder(seeds.map((seed) => land.mesh.sites[seed]))
  const districtNames = seeds.map((_, i) => (i === busiest(land, seeds) ? 'Harrowmouth' : names.place()))
  const shapes = featureShapes(land, labels, labels)
  const districts = order.map((label, i) => ({ label, code: `LM${String(i + 1).padStart(3, '0')}` }))
  const districtFeatures = districts.map(({ label, code }) =>
    feature(
      { code, name: districtNames[label], province: provinceNames[provinceOf[label]] },
      shapes.get(label) as MultiPolygon,
    ),
  )
  const facts = districts.map(({ label, code }, i): DistrictFacts => ({
    code,
    areaKm2: groundKm2(districtFeatures[i].geometry),
    ...character(land, labels, label),
    remote: provinceOf[label] === provinceCount - 1,
  }))
  const provinces = [...featureShapes(land, provinceLabels, labels)]
    .sort(([a], [b]) => a - b)
    .map(([p, shape]) => feature({ code: `P${p + 1}`, name: provinceNames[p] }, shape))
  const returns = districtReturns(facts, random)
  const lakeRings = makeLakes(land, random, 12).map(({ ring }) => ring)
  const lakes = lakeRings.map((ring) => feature({ name: `${names.word()} Water` }, polygon([ring])))
  const riverLines = makeRivers(land, random, 16).map(({ line }) => line)
  const rivers = riverLines.map((line, i) =>
    feature({ name: names.word(), order: i + 1 }, { type: 'LineString', coordinates: line.map(toLonLat) }),
  )
  const towns = makeTowns(land, seeds, districtNames, random)
  // A source of chance of its own, so that what was there before stays as it was.
  const more = seededRandom(seed + 77)
  const townPlaces = towns.map(({ properties, geometry }) => ({
    name: String(properties?.name),
    people: Number(properties?.population),
    at: fromLonLat((geometry as Point).coordinates as [number, number]),
  }))
  const nearestCell = (at: Km) => nearestSeed(at, land.mesh.sites)
  const population = new Map(returns.map((row) => [row.code, Number(row.population)]))
  const files = {
    'districts.topojson': JSON.stringify(topology({ districts: collection(districtFeatures) })) + '\n',
    'district-returns.csv': csv(returnColumns, spoilCodes(returns)),
    'provinces.geojson': geojson(provinces),
    'towns.geojson': geojson(towns),
    'lakes.geojson': geojson(lakes),
    'rivers.geojson': geojson(rivers),
    'libraries.csv': csvRows(
      ['name', 'type', 'visits', 'hours_per_week', 'opened', 'lon', 'lat'],
      libraryRows(land, more, nameMaker(more).word),
    ),
    'readers.csv': csvRows(['lon', 'lat', 'books'], readerRows(land, more)),
    'roads.geojson': geojson(roadFeatures(townPlaces, (at) => land.island[nearestCell(at)])),
    'book-van-routes.geojson': geojson(
      routeFeatures(townPlaces, more, Array.from({ length: 9 }, nameMaker(more).word)),
    ),
    'loans-between-districts.csv': csvRows(
      ['origin', 'destination', 'loans'],
      loanRows(
        districts.map(({ code }) => code),
        districts.map(({ label }) => land.mesh.sites[seeds[label]]),
        districts.map(({ code }) => population.get(code) ?? 0),
      ),
    ),
    'subject-tree.csv': csvRows(['subject_group', 'subject', 'loans', 'titles'], subjectRows(more)),
    'parishes.zip': parishes(land, labels, { districts, population, random: more }),
    'sea.geojson': geojson([
      feature(
        { name: 'Merran Sea' },
        {
          type: 'Polygon',
          coordinates: [
            [
              [-38, 42],
              [-18, 42],
              [-18, 56],
              [-38, 56],
              [-38, 42],
            ],
          ],
        },
      ),
    ]),
  }
  const ground = () => {
    const areas = geometryFromShapes(districtFeatures.map(({ geometry }) => geometry))
    const water = { rivers: riverLines, lakes: lakeRings }
    const made: Made = {
      land,
      districts: areas,
      ground: makeTerrain(land, water, (km) => featureAt(areas, ...degreesOf(km)) >= 0),
    }
    return { relief: reliefTiff(made), cover: coverTiff(made) }
  }
  return { files, ground }
}

const parishCount = 2400

/**
 * Cells of land in pairs with a neighbour of their district, until there are no more than `parishCount`
 * parishes; −1 is sea.
 */
function parishOf({ mesh }: Land, labels: Int32Array): Int32Array {
  const cells = [...labels.keys()].filter((cell) => labels[cell] >= 0)
  const parish = new Int32Array(labels.length).fill(-1)
  let left = cells.length
  for (const cell of cells) {
    if (parish[cell] >= 0) continue
    parish[cell] = cell
    const other =
      left > parishCount
        ? mesh.neighbours[cell].find((n) => labels[n] === labels[cell] && parish[n] < 0)
        : undefined
    if (other === undefined) continue
    parish[other] = cell
    left--
  }
  return parish
}

/** Small areas of one or two cells of land, as a zipped shapefile in UTM zone 26 north. */
function parishes(
  land: Land,
  labels: Int32Array,
  {
    districts,
    population,
    random,
  }: { districts: { label: number; code: string }[]; population: Map<string, number>; random: Random },
): Uint8Array {
  const own = parishOf(land, labels)
  const cells = [...own.keys()].filter((cell) => own[cell] === cell)
  const shapes = featureShapes(land, own, labels)
  const codeOf = new Map(districts.map(({ label, code }) => [label, code]))
  const shares = new Map<number, number>()
  const weights = new Map(
    cells.map((cell) => [cell, 0.2 + random() + 4 * land.townness(land.mesh.sites[cell])]),
  )
  for (const cell of cells)
    shares.set(labels[cell], (shares.get(labels[cell]) ?? 0) + (weights.get(cell) ?? 0))
  const rows = cells.map((cell, i) => {
    const code = codeOf.get(labels[cell]) ?? ''
    const people = Math.round(
      ((population.get(code) ?? 0) * (weights.get(cell) ?? 0)) / (shares.get(labels[cell]) ?? 1),
    )
    return {
      code: `${code}-${String(i + 1).padStart(4, '0')}`,
      district: code,
      people,
      loans: Math.round(people * Math.max(0, 3.6 + 1.4 * normal(random))),
    }
  })
  const dataset = {
    rowCount: rows.length,
    geometry: geometryFromShapes(cells.map((cell) => shapes.get(cell) ?? null)),
    fields: [
      { key: 'code', column: textColumn(rows.map((row) => row.code)) },
      { key: 'district', column: textColumn(rows.map((row) => row.district)) },
      { key: 'population', column: numberColumn(rows.map((row) => row.people)) },
      { key: 'lib_loans', column: numberColumn(rows.map((row) => row.loans)) },
    ],
  }
  return writeShapefile({
    dataset,
    name: 'parishes',
    fieldMeta: (key) => ({ label: key, unit: '', role: 'total' }),
    fieldNames: 'short',
    crs: 'EPSG:32626',
  }).bytes
}

/**
 * Provinces as a label for each district: the long island and the remote islands are one each; the main
 * island is shared out.
 */
function makeProvinces(land: Land, labels: Int32Array, seeds: number[]): number[] {
  const { mesh, island } = land
  const onMain = seeds.map((seed) => island[seed] === 0)
  const remote = (seed: number) => mesh.sites[seed][1] < -200
  const long = (seed: number) => mesh.sites[seed][0] > 150 && mesh.sites[seed][1] > 60
  const hearts: number[] = [seeds.findIndex((_, i) => onMain[i])]
  while (hearts.length < provinceCount - 2) {
    const distances = seeds.map((seed, i) =>
      onMain[i]
        ? Math.min(
            ...hearts.map((h) =>
              Math.hypot(
                mesh.sites[seed][0] - mesh.sites[seeds[h]][0],
                mesh.sites[seed][1] - mesh.sites[seeds[h]][1],
              ),
            ),
          )
        : -1,
    )
    hearts.push(distances.indexOf(Math.max(...distances)))
  }
  const province = new Array<number>(seeds.length).fill(-1)
  hearts.forEach((heart, p) => (province[heart] = p))
  const neighbours = districtNeighbours(land, labels, seeds.length)
  const sizes = hearts.map(() => 1)
  for (let changed = true; changed;) {
    changed = false
    // The smallest province that still can takes its nearest free neighbour, so that sizes stay alike.
    for (const p of [...sizes.keys()].sort((a, b) => sizes[a] - sizes[b] || a - b)) {
      const free = seeds
        .map((_, i) => i)
        .filter((i) => province[i] < 0 && onMain[i] && neighbours[i].some((n) => province[n] === p))
      if (!free.length) continue
      const heart = mesh.sites[seeds[hearts[p]]]
      const next = free.reduce((best, i) =>
        Math.hypot(mesh.sites[seeds[i]][0] - heart[0], mesh.sites[seeds[i]][1] - heart[1]) <
        Math.hypot(mesh.sites[seeds[best]][0] - heart[0], mesh.sites[seeds[best]][1] - heart[1])
          ? i
          : best,
      )
      province[next] = p
      sizes[p]++
      changed = true
      break
    }
  }
  return province.map((p, i) => {
    if (p >= 0) return p
    if (remote(seeds[i])) return provinceCount - 1
    if (long(seeds[i])) return provinceCount - 2
    return province[
      hearts[
        nearestSeed(
          mesh.sites[seeds[i]],
          hearts.map((h) => mesh.sites[seeds[h]]),
        )
      ]
    ]
  })
}

/** District labels from north to south in bands, west to east within a band, as codes are given out. */
function readingOrder(sites: Km[]): number[] {
  const band = ([, y]: Km) => -Math.round(y / 60)
  return sites.map((_, i) => i).sort((a, b) => band(sites[a]) - band(sites[b]) || sites[a][0] - sites[b][0])
}

const busiest = ({ mesh, townness }: Land, seeds: number[]): number =>
  seeds.reduce(
    (best, seed, i) => (townness(mesh.sites[seed]) > townness(mesh.sites[seeds[best]]) ? i : best),
    0,
  )

function character(
  { mesh, townness, noise }: Land,
  labels: Int32Array,
  label: number,
): { townness: number; noise: number } {
  let [n, town, wave] = [0, 0, 0]
  labels.forEach((l, cell) => {
    if (l !== label) return
    n++
    town += townness(mesh.sites[cell])
    wave += noise(mesh.sites[cell][0] / 110 + 31, mesh.sites[cell][1] / 110)
  })
  return { townness: town / n, noise: wave / n }
}

function featureShapes(land: Land, labels: Int32Array, coast: Int32Array): Map<number, MultiPolygon> {
  const rings = regionRings(land.mesh, labels, coast, roughness)
  return new Map(
    [...rings].map(([label, list]) => [
      label,
      { type: 'MultiPolygon', coordinates: polygonsOf(list).map((rings) => polygon(rings).coordinates) },
    ]),
  )
}

/**
 * Rings of kilometres as a polygon of longitudes and latitudes; neighbours that fall together are dropped.
 */
const polygon = (rings: Km[][]): Polygon => ({
  type: 'Polygon',
  coordinates: rings.map((ring) => {
    const points = ring
      .map(toLonLat)
      .filter(([lon, lat], i, all) => i === 0 || lon !== all[i - 1][0] || lat !== all[i - 1][1])
    return [...points, points[0]]
  }),
})

/** Area on the sphere of the earth's mean radius. */
function groundKm2(geometry: Geometry): number {
  const parts = geometry.type === 'MultiPolygon' ? geometry.coordinates : []
  const steradians = parts.reduce(
    (sum, rings) => sum + geoArea({ type: 'Polygon', coordinates: rings.map((ring) => [...ring].reverse()) }),
    0,
  )
  return steradians * 6371.0072 ** 2
}

/** The seats of the largest and some other districts, with their people. */
function makeTowns({ mesh, townness }: Land, seeds: number[], names: string[], random: Random): Feature[] {
  const capital = names.indexOf('Harrowmouth')
  const cities = new Map(
    centres.map(({ at, weight }) => [
      nearestSeed(
        at,
        seeds.map((seed) => mesh.sites[seed]),
      ),
      weight,
    ]),
  )
  const people = (seed: number, i: number) => {
    const size = 1800 + 42_000 * townness(mesh.sites[seed]) ** 1.8 * (0.35 + 0.65 * random())
    return (
      Math.round(
        (i === capital
          ? 312_000
          : Math.max(size, 150_000 * (cities.get(i) ?? 0) * (cities.get(i) === 1 ? 0 : 1))) / 10,
      ) * 10
    )
  }
  const ranked = seeds.map((seed, i) => ({ i, at: mesh.sites[seed], people: people(seed, i) }))
  const spaced: typeof ranked = []
  for (const town of ranked.sort((a, b) => b.people - a.people || a.i - b.i)) {
    if (
      spaced.length < 60 &&
      spaced.every((other) => Math.hypot(other.at[0] - town.at[0], other.at[1] - town.at[1]) > 15)
    )
      spaced.push(town)
  }
  return spaced.map(({ i, at, people }, rank) =>
    feature(
      { name: names[i], population: people, rank: 1 + [1, 8, 24].filter((end) => rank >= end).length },
      { type: 'Point', coordinates: toLonLat(at) },
    ),
  )
}

const feature = <G extends Geometry>(
  properties: Record<string, string | number>,
  geometry: G,
): Feature<G> => ({ type: 'Feature', properties, geometry })
const collection = (features: Feature[]): FeatureCollection => ({ type: 'FeatureCollection', features })
const geojson = (features: Feature[]): string =>
  `{"type":"FeatureCollection","features":[\n${features.map((f) => JSON.stringify(f)).join(',\n')}\n]}\n`
const csvRows = (columns: string[], rows: string[][]): string =>
  [columns, ...rows].map((cells) => cells.join(',')).join('\n') + '\n'
const csv = (columns: string[], rows: Record<string, string>[]): string =>
  [columns, ...rows.map((row) => columns.map((c) => row[c]))].map((cells) => cells.join(',')).join('\n') +
  '\n'
