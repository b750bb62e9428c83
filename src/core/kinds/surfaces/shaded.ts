import { polygon } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import type { PaperLines } from './isolines'
import type { SurfaceLook } from './look'

/**
 * How wide a lit contour is where its slope faces some way, as a share of the widest, and whether it faces the light:
 * the cosine of the angle between the light and the way that is downhill (Tanaka 1950).
 * @param downDeg the way downhill, and
 * @param fromDeg where the light comes from; degrees clockwise from the top of the page
 */
export function litWidth(downDeg: number, fromDeg: number): { share: number; lit: boolean } {
  const cosine = Math.cos(((downDeg - fromDeg) * Math.PI) / 180)
  return { share: Math.abs(cosine), lit: cosine > 0 }
}

/**
 * Contours lit from one side (Tanaka 1950): light towards it, dark away from it, and as wide as they face it. Each run
 * of one side is an outline of its own with the line in its middle, so that widths may change along it.
 */
export function drawShaded(all: PaperLines[], { light }: SurfaceLook): Node[] {
  return all.flatMap(({ level, lines }) => {
    const sides = { lit: [] as number[][], shaded: [] as number[][] }
    for (const line of lines)
      for (const { lit, places, shares } of runsOf(line, light.fromDeg))
        sides[lit ? 'lit' : 'shaded'].push(ribbon(places, shares, pointsToMm(light.widestPt)))
    const nodes = (['shaded', 'lit'] as const)
      .filter((side) => sides[side].length)
      .map((side) => path(polygon(...sides[side]), { fill: solid(light[side]), fillRule: 'nonzero' }))
    return nodes.length ? [group(`lit line ${level}`, nodes)] : []
  })
}

type Run = { lit: boolean; places: number[]; shares: number[] }

/** Pieces of a line on one side, with the width at each place: the mean of the edges that meet there. */
function runsOf(line: Float64Array, fromDeg: number): Run[] {
  const edges = line.length / 2 - 1
  const facing = Array.from({ length: edges }, (_, i) => {
    const [dx, dy] = [line[2 * i + 2] - line[2 * i], line[2 * i + 3] - line[2 * i + 1]]
    // What is higher lies on the right (y downwards), so downhill is on the left: (dy, −dx) on paper.
    return litWidth((Math.atan2(dy, dx) * 180) / Math.PI, fromDeg)
  })
  const runs: Run[] = []
  for (let i = 0; i < edges; i++) {
    const { share, lit } = facing[i]
    const before = facing[i - 1] as (typeof facing)[number] | undefined
    const last = runs.at(-1)
    if (last?.lit === lit && before) {
      last.shares[last.shares.length - 1] = (before.share + share) / 2
      last.places.push(line[2 * i + 2], line[2 * i + 3])
      last.shares.push(share)
    } else
      runs.push({
        lit,
        places: [line[2 * i], line[2 * i + 1], line[2 * i + 2], line[2 * i + 3]],
        shares: [share, share],
      })
  }
  return runs
}

/** The outline of a line whose width changes along it. */
function ribbon(places: number[], shares: number[], widestMm: number): number[] {
  const count = shares.length
  const [one, other]: number[][] = [[], []]
  for (let i = 0; i < count; i++) {
    const [before, after] = [Math.max(0, i - 1), Math.min(count - 1, i + 1)]
    const [dx, dy] = [places[2 * after] - places[2 * before], places[2 * after + 1] - places[2 * before + 1]]
    const length = Math.hypot(dx, dy) || 1
    const half = (shares[i] * widestMm) / 2
    const [nx, ny] = [(-dy / length) * half, (dx / length) * half]
    one.push(places[2 * i] + nx, places[2 * i + 1] + ny)
    other.unshift(places[2 * i] - nx, places[2 * i + 1] - ny)
  }
  return [...one, ...other]
}
