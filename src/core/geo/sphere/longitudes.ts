/**
 * Degrees from one longitude to another the shorter way round, positive to the east, over −180 up to 180. Every
 * edge between two vertices runs this way.
 */
export function eastward(from: number, to: number): number {
  const raw = to - from
  if (raw > -180 && raw <= 180) return raw
  const turned = raw - 360 * Math.round(raw / 360)
  return turned === -180 ? 180 : turned
}

/** Parts of a degree to which a longitude that was turned is rounded, as it was before: 0.1 µm on the ground. */
const turnedParts = 1e12

/** A longitude over −180 up to 180: each meridian has one name. */
export function wrapped(lon: number): number {
  if (lon > -180 && lon <= 180) return lon
  const turned = lon - 360 * Math.round(lon / 360)
  const name = Math.round(turned * turnedParts) / turnedParts
  return name <= -180 ? name + 360 : name
}
