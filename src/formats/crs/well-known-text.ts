import { shiftOfDatum, type Shift } from './shifts'

/** Parameters of projections that are angles. */
const angles = [
  ...['latitude_of_origin', 'central_meridian', 'longitude_of_origin', 'latitude_of_true_scale', 'azimuth'],
  ...['standard_parallel', 'standard_parallel_1', 'standard_parallel_2', 'rectified_grid_angle'],
  ...['latitude_of_center', 'latitude_of_centre', 'longitude_of_center', 'longitude_of_centre'],
  ...['pseudo_standard_parallel_1', 'latitude_of_point_1', 'latitude_of_point_2'],
  ...['longitude_of_point_1', 'longitude_of_point_2'],
].join('|')
const angular = new RegExp(String.raw`(PARAMETER\["(?:${angles})"\s*,\s*)(-?[\d.]+(?:e[+-]?\d+)?)`, 'gi')
/** A geographic system: the longitude of its prime meridian, and the name and size of its angles. */
const geographicSystem = new RegExp(
  String.raw`GEOGCS\[.*?PRIMEM\["[^"]*"\s*,\s*(-?[\d.]+)[^\]]*(?:\[[^\]]*\][^\]]*)*\]` +
    String.raw`\s*,\s*UNIT\["([^"]+)"\s*,\s*([\d.eE+-]+)`,
  'is',
)
const perDegree = Math.PI / 180

/**
 * A system in well-known text (OGC 01-009) as the library reads it right: angles in degrees where the file has them in
 * grads or others, and the parameters of its datum from its name where the file gives none.
 */
export function understoodText(text: string): { text: string; shift: Shift | null } {
  let out = inDegrees(text)
  const given = /TOWGS84\[([^\]]+)\]/i.exec(out)
  if (given) return { text: out, shift: null }
  const datum = /DATUM\["([^"]+)"\s*,\s*(?:SPHEROID|ELLIPSOID)\[[^[\]]*(?:\[[^\]]*\][^[\]]*)*\]/i.exec(out)
  const shift = datum && shiftOfDatum(datum[1])
  if (datum && shift && !/^(GEOD|PROJ|BOUND|GEOG)CRS/i.test(out)) {
    const at = datum.index + datum[0].length
    out = `${out.slice(0, at)},TOWGS84[${shift.towgs84.join(',')}]${out.slice(at)}`
  }
  return { text: out, shift }
}

/** Angles of a text whose unit is not the degree, turned into degrees. */
function inDegrees(text: string): string {
  const geographic = geographicSystem.exec(text)
  if (!geographic) return text
  const [whole, meridian, unit, radians] = geographic
  const factor = Number(radians) / perDegree
  if (!Number.isFinite(factor) || Math.abs(factor - 1) < 1e-6) return text
  const changed = whole
    .replace(
      /(PRIMEM\["[^"]*"\s*,\s*)(-?[\d.]+)/i,
      (_, before: string) => `${before}${Number(meridian) * factor}`,
    )
    .replace(
      new RegExp(`UNIT\\["${unit.replace(/[^\w ]/g, '.')}"\\s*,\\s*${radians.replace(/[+.]/g, '\\$&')}`, 'i'),
      `UNIT["degree",${perDegree}`,
    )
  return text
    .replace(whole, changed)
    .replace(angular, (_, before: string, value: string) => `${before}${Number(value) * factor}`)
}

/** The EPSG code that a text gives for itself, as its last member; null where it gives none. */
export function codeOfText(text: string): string | null {
  return /AUTHORITY\["EPSG"\s*,\s*"?(\d+)"?\]\s*\]\s*$/i.exec(text)?.[1] ?? null
}
