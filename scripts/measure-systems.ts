/**
 * Writes src/formats/crs/measured.json: how far places come out from where PROJ has them, for every system of the list
 * that is off by more than it is said to be good for. Run by hand when the list or the shifts change, with Debian's
 * proj-bin (some minutes): npx tsx scripts/measure-systems.ts
 */
import { execFile } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import path from 'node:path'
import { promisify } from 'node:util'
import geographiclib from 'geographiclib-geodesic'
import pLimit from 'p-limit'
import { unmeasuredSystems, type ReferenceSystem } from '@/formats/crs/catalogue'
import { definitionOfListed } from '@/formats/crs/reproject'

const run = promisify(execFile)
const { WGS84 } = geographiclib.Geodesic
type Place = [lon: number, lat: number]

/** Five places within an area of use: its middle, and half way to its corners. */
function placesIn([west, south, east, north]: readonly number[]): Place[] {
  const width = east < west ? east + 360 - west : east - west
  return [
    [0.5, 0.5],
    [0.35, 0.35],
    [0.65, 0.35],
    [0.35, 0.65],
    [0.65, 0.65],
  ].map(([u, v]): Place => {
    const lon = west + width * u
    return [lon > 180 ? lon - 360 : lon, south + (north - south) * v]
  })
}

/** Coordinates as PROJ has them, in the order of the system's axes. */
async function byProj(code: string, places: Place[]): Promise<(Place | null)[]> {
  const running = run('cs2cs', ['-f', '%.9f', 'EPSG:4326', code], {
    env: { ...process.env, PROJ_NETWORK: 'OFF' },
  })
  running.child.stdin?.end(places.map(([lon, lat]) => `${lat} ${lon}\n`).join(''))
  const { stdout } = await running
  return stdout.split('\n').map((line) => {
    const [a, b] = line.split(/\s+/).map(Number)
    return Number.isFinite(a) && Number.isFinite(b) ? [a, b] : null
  })
}

/**
 * Metres between a place and what our definition makes of coordinates, in that order of them that fits better: files
 * have easting first where axes point north and east.
 */
function offBy(system: ReferenceSystem, place: Place, [a, b]: Place): number {
  try {
    const { toDegrees } = definitionOfListed(system)
    // PROJ's program prints angles in degrees, whatever the system has.
    const size = system.unit === 'grad' ? 0.9 : 1
    const distances = [
      [a / size, b / size],
      [b / size, a / size],
    ].map(([x, y]) => {
      const [lon, lat] = toDegrees ? toDegrees(x, y) : [x, y]
      if (!Number.isFinite(lon) || !(Math.abs(lat) <= 90)) return Infinity
      return WGS84.Inverse(place[1], place[0], lat, lon).s12 ?? Infinity
    })
    return Math.min(...distances)
  } catch {
    return Infinity
  }
}

const limit = pLimit(2)
const off: Record<string, number | null> = {}
let [measured, unknown] = [0, 0]
await Promise.all(
  unmeasuredSystems().map((system) =>
    limit(async () => {
      const { code, areaOfUse, accuracyM } = system
      if (!areaOfUse) return
      const places = placesIn(areaOfUse)
      const found = await byProj(code, places).catch(() => [])
      const distances = places
        .flatMap((place, i) => {
          const at = found[i]
          return at ? [offBy(system, place, at)] : []
        })
        .sort((a, b) => a - b)
      if (!distances.length) {
        unknown++
        return
      }
      measured++
      const middle = distances[Math.floor(distances.length / 2)]
      if (!Number.isFinite(middle)) off[code.slice(5)] = null
      else if (middle > Math.max(2, accuracyM ?? 2)) off[code.slice(5)] = Number(middle.toPrecision(2))
    }),
  ),
)
const sorted = Object.fromEntries(Object.entries(off).sort(([a], [b]) => Number(a) - Number(b)))
writeFileSync(
  path.join(import.meta.dirname, '../src/formats/crs/measured.json'),
  `${JSON.stringify(sorted)}\n`,
)
console.log(
  `${measured} systems measured, ${unknown} that PROJ does not know, ${Object.keys(off).length} off`,
)
