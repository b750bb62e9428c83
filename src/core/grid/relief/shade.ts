/** A light, by the direction that it comes from, degrees clockwise from the top of the page, and how strong it is. */
export type Light = { azimuthDeg: number; weight: number }

export type ShadeWishes = {
  lights: readonly Light[]
  /** How high the lights stand above the ground, degrees. */
  altitudeDeg: number
  /** Heights are made so many times greater. */
  exaggeration: number
  /** How far light reaches round into what is turned away from it, 0 (not at all) to 1. */
  softness: number
}

const radians = Math.PI / 180

/**
 * How much of a light from one direction falls on a slope, −1 to 1: the cosine of the angle between the light and the
 * upright of the slope (Horn 1981): sin α cos s + cos α sin s cos(azimuth − aspect) for altitude α and slope s.
 */
export function lit(right: number, up: number, azimuthDeg: number, altitudeDeg: number): number {
  const [a, b] = [azimuthDeg * radians, altitudeDeg * radians]
  const level = Math.cos(b)
  return (
    (Math.sin(b) - level * (right * Math.sin(a) + up * Math.cos(a))) / Math.sqrt(1 + right * right + up * up)
  )
}

/**
 * How light a slope is beside level ground, from −1 (as dark as can be) over 0 (level) to 1 (as light as can be).
 * Several lights are mixed by the square of the sine between their direction and that in which the slope faces, so
 * that each models the slopes that it grazes (Mark 1992, “Multidirectional, oblique-weighted, shaded-relief image”).
 * That sine is the part of the slope upright on the light over the whole slope, so that no angle need be known.
 */
export function shader({
  lights,
  altitudeDeg,
  exaggeration,
  softness,
}: ShadeWishes): (right: number, up: number) => number {
  const [high, flat] = [Math.sin(altitudeDeg * radians), Math.cos(altitudeDeg * radians)]
  const level = Math.max(0, (high + softness) / (1 + softness))
  const count = lights.length
  const east = Float64Array.from(lights, ({ azimuthDeg }) => Math.sin(azimuthDeg * radians))
  const north = Float64Array.from(lights, ({ azimuthDeg }) => Math.cos(azimuthDeg * radians))
  const strong = Float64Array.from(lights, ({ weight }) => weight)
  const isOne = count === 1
  const toDark = level > 0 ? 1 / level : 0
  const toLight = level < 1 ? 1 / (1 - level) : 0
  const softly = 1 / (1 + softness)
  return (rightSlope, upSlope) => {
    const [right, up] = [exaggeration * rightSlope, exaggeration * upSlope]
    const steep = right * right + up * up
    if (steep !== steep) return NaN
    const upright = 1 / Math.sqrt(1 + steep)
    let [sum, weights] = [0, 0]
    for (let k = 0; k < count; k++) {
      const along = right * east[k] + up * north[k]
      const aside = right * north[k] - up * east[k]
      const weight = isOne || steep === 0 ? strong[k] : (strong[k] * aside * aside) / steep
      const light = ((high - flat * along) * upright + softness) * softly
      if (light > 0) sum += weight * light
      weights += weight
    }
    const beside = (weights > 0 ? sum / weights : level) - level
    return beside < 0 ? beside * toDark : beside * toLight
  }
}
