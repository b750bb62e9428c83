import { aspectDeg } from './gradient'

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
 */
export function shader({
  lights,
  altitudeDeg,
  exaggeration,
  softness,
}: ShadeWishes): (right: number, up: number) => number {
  const soft = (cosine: number): number => Math.max(0, (cosine + softness) / (1 + softness))
  const level = soft(Math.sin(altitudeDeg * radians))
  return (rightSlope, upSlope) => {
    const [right, up] = [exaggeration * rightSlope, exaggeration * upSlope]
    if (Number.isNaN(right)) return NaN
    const facing = lights.length > 1 ? aspectDeg(right, up) : NaN
    let [sum, weights] = [0, 0]
    for (const { azimuthDeg, weight } of lights) {
      const grazing = Number.isNaN(facing) ? 1 : Math.sin((facing - azimuthDeg) * radians) ** 2
      sum += weight * grazing * soft(lit(right, up, azimuthDeg, altitudeDeg))
      weights += weight * grazing
    }
    const light = weights > 0 ? sum / weights : level
    if (light < level) return level > 0 ? (light - level) / level : 0
    return level < 1 ? (light - level) / (1 - level) : 0
  }
}
