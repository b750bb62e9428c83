/**
 * Writes src/formats/crs/shifts.json from a PROJ database (MIT licence; its parameters are those of the EPSG data
 * set): for every system the best transformation to WGS 84 that needs no grid. Run by hand when the data set changes:
 * node scripts/make-shifts.mjs PATH/proj.db
 */
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import sqlite3 from 'sqlite3'

const db = new sqlite3.Database(process.argv[2], sqlite3.OPEN_READONLY)
const texts = (row) =>
  Object.fromEntries(
    Object.entries(row).map(([key, value]) => [
      key,
      /code|^[ctse]$|^ec$/.test(key) && value !== null ? String(value) : value,
    ]),
  )
const all = (sql) =>
  new Promise((resolve, reject) =>
    db.all(sql, (error, rows) => (error ? reject(error) : resolve(rows.map(texts)))),
  )

const arcSeconds = {
  ...{ 9104: 1, 9109: 0.2062648062470964, 9101: 206264.80624709636, 9102: 3600, 1031: 0.001 },
  // Grads and centesimal seconds.
  ...{ 9105: 3240, 9113: 0.324 },
}
const partsPerMillion = { 9202: 1, 1028: 0.001, 9201: 1e6 }
const metres = { 9001: 1, 1025: 0.001, 1033: 0.01 }

/** What one of a unit is; a unit that is not known here ends the program, so that none is taken for another. */
function inUnit(units, code) {
  if (code === null) return 1
  if (units[code] === undefined) throw new Error(`What is the unit ${code}?`)
  return units[code]
}

/** Position vector form: translations in metres, rotations in arc seconds, scale in parts per million. */
function sevenOf(row) {
  const t = [row.tx, row.ty, row.tz].map((v) => (v ?? 0) * inUnit(metres, row.translation_uom_code))
  const turn = /Coordinate Frame|CF/.test(row.method_name) ? -1 : 1
  const r = [row.rx, row.ry, row.rz].map(
    (v) => turn * (v ?? 0) * inUnit(arcSeconds, row.rotation_uom_code) || 0,
  )
  const s = (row.scale_difference ?? 0) * inUnit(partsPerMillion, row.scale_difference_uom_code)
  if (row.px !== null) {
    // Molodensky and Badekas turn about a point of their own.
    const p = [row.px, row.py, row.pz]
    const [a, b, c] = r.map((v) => v / 206264.80624709636)
    const turned = [p[0] - c * p[1] + b * p[2], c * p[0] + p[1] - a * p[2], -b * p[0] + a * p[1] + p[2]]
    for (let i = 0; i < 3; i++) t[i] += p[i] - (1 + s * 1e-6) * turned[i]
  }
  return [...t, ...r, s].map((v) => Number(v.toFixed(7)))
}

const extents = new Map(
  (await all('SELECT auth_name, code, south_lat, north_lat, west_lon, east_lon FROM extent')).map((e) => [
    `${e.auth_name}:${e.code}`,
    e,
  ]),
)
const areas = new Map()
for (const u of await all(
  'SELECT object_table_name t, object_auth_name a, object_code c, extent_auth_name ea, extent_code ec FROM usage',
))
  if (!areas.has(`${u.t} ${u.a}:${u.c}`)) areas.set(`${u.t} ${u.a}:${u.c}`, extents.get(`${u.ea}:${u.ec}`))
const spans = (e) =>
  e.east_lon < e.west_lon
    ? [
        [e.west_lon, 180],
        [-180, e.east_lon],
      ]
    : [[e.west_lon, e.east_lon]]
const sizeOf = (e) => spans(e).reduce((n, [w, x]) => n + (x - w), 0) * (e.north_lat - e.south_lat)
function shared(a, b) {
  const height = Math.min(a.north_lat, b.north_lat) - Math.max(a.south_lat, b.south_lat)
  let width = 0
  for (const [w, e] of spans(a))
    for (const [v, f] of spans(b)) width += Math.max(0, Math.min(e, f) - Math.max(w, v))
  return Math.max(0, height) * width
}

const geodetic = await all(
  "SELECT code, name, datum_code, deprecated FROM geodetic_crs WHERE auth_name = 'EPSG'",
)
const datumOf = new Map(geodetic.map((g) => [g.code, g.datum_code]))
const superseded = new Set(
  (
    await all(
      "SELECT superseded_code c FROM supersession WHERE superseded_table_name = 'helmert_transformation'",
    )
  ).map(({ c }) => c),
)
const shifts = (await all('SELECT * FROM helmert_transformation WHERE deprecated = 0')).filter(
  (row) =>
    ['EPSG'].includes(row.source_crs_auth_name) && row.target_crs_auth_name === 'EPSG' && row.tx !== null,
)
const byDatum = new Map()
const plain = new Set([datumOf.get('4326')])
// Systems that are WGS 84 to a metre.
for (const row of shifts)
  if (
    datumOf.get(row.target_crs_code) === datumOf.get('4326') &&
    sevenOf(row).every((v) => v === 0) &&
    (row.accuracy ?? 9) <= 1
  )
    plain.add(datumOf.get(row.source_crs_code))
for (const row of shifts) {
  if (!plain.has(datumOf.get(row.target_crs_code))) continue
  const datum = datumOf.get(row.source_crs_code)
  const direct = datumOf.get(row.target_crs_code) === datumOf.get('4326')
  const kept = {
    seven: sevenOf(row),
    accuracy: direct ? row.accuracy : Math.hypot(row.accuracy ?? 5, 1),
    area: areas.get(`helmert_transformation ${row.auth_name}:${row.code}`),
    old: superseded.has(row.code),
    epsg: row.auth_name === 'EPSG',
    code: Number(row.code) || 0,
    rates: row.rate_tx !== null,
  }
  if (!kept.area) continue
  byDatum.set(datum, [...(byDatum.get(datum) ?? []), kept])
}
// Datums that differ by their prime meridian only: those of other systems are those of this one, where there are
// several the area of use decides.
const meridians = new Map()
for (const row of await all(
  "SELECT source_crs_code s, target_crs_code t FROM other_transformation WHERE deprecated = 0 AND method_code = '9601'",
)) {
  const [from, to] = [datumOf.get(row.s), datumOf.get(row.t)]
  if (from && to && from !== to && byDatum.has(to))
    meridians.set(from, [...(meridians.get(from) ?? []), ...byDatum.get(to)])
}
for (const [from, found] of meridians) byDatum.set(from, [...(byDatum.get(from) ?? []), ...found])

const list = []
const index = new Map()
const put = ({ seven, accuracy }) => {
  const entry = [...seven, Math.round((accuracy ?? 10) * 100) / 100]
  const key = entry.join()
  if (!index.has(key)) {
    index.set(key, list.length)
    list.push(entry)
  }
  return index.get(key)
}
function best(datum, area) {
  const ranked = (byDatum.get(datum) ?? [])
    .map((one) => ({
      ...one,
      cover: area ? Math.round((10 * shared(one.area, area)) / sizeOf(area)) / 10 : 0,
      size: sizeOf(one.area),
    }))
    .filter(({ cover }) => !area || cover > 0)
    .sort(
      (a, b) =>
        b.cover - a.cover ||
        a.old - b.old ||
        a.rates - b.rates ||
        b.epsg - a.epsg ||
        (a.accuracy ?? 99) - (b.accuracy ?? 99) ||
        b.code - a.code,
    )
  return ranked[0] ?? null
}
const codes = {}
const add = (code, datum, table) => {
  const found = best(datum, areas.get(`${table} EPSG:${code}`))
  if (found) codes[code] = put(found)
}
for (const { code, datum_code } of geodetic) add(code, datum_code, 'geodetic_crs')
for (const { code, geodetic_crs_code: base } of await all(
  "SELECT code, geodetic_crs_code FROM projected_crs WHERE auth_name = 'EPSG' AND geodetic_crs_auth_name = 'EPSG'",
))
  add(code, datumOf.get(base), 'projected_crs')

const datums = {}
const plainName = (name) =>
  name
    .toLowerCase()
    .replace(/^d_/, '')
    .replace(/[^a-z0-9]+/g, '')
const names = await all("SELECT code, name FROM geodetic_datum WHERE auth_name = 'EPSG'")
const aliases = await all(
  "SELECT code, alt_name name FROM alias_name WHERE table_name = 'geodetic_datum' AND auth_name = 'EPSG'",
)
for (const { code, name } of [...names, ...aliases]) {
  const found = best(code, areas.get(`geodetic_datum EPSG:${code}`))
  if (found) datums[plainName(name)] ??= put(found)
}
const file = path.join(import.meta.dirname, '../src/formats/crs/shifts.json')
writeFileSync(file, JSON.stringify({ shifts: list, codes, datums }) + '\n')
console.log(
  `${list.length} transformations for ${Object.keys(codes).length} systems and ${Object.keys(datums).length} names of datums`,
)
