import { arcNeighbours } from '@/core/geo/geometry'
import { featureOutline } from '@/core/geo/outlines'
import { toMetres } from '@/core/geo/paper'
import type { Rings } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import type { DrawContext } from '../kind'
import { widthPt, type ContrastPlan } from './plan'
import type { ContrastSettings } from './spec'

/** Widths in proportion are told apart by so many steps. */
const steps = 60

type Line = { widthMm: number; colour: string; name: string; arcs: number[] }

/** Lines along borders, thin ones first; one-sided ones each within the area that has the higher value. */
export function drawContrast(plan: ContrastPlan, settings: ContrastSettings, context: DrawContext): Node[] {
  const { projected } = context
  if (projected.kind !== 'areas') return []
  const borders = bordersOf(plan, context)
  if (!settings.oneSided) return linesOf(borders, { plan, settings, times: 1 }, context)
  const byArea = new Map<number, [arc: number, pair: number][]>()
  for (const [arc, pair] of borders) {
    const own = byArea.get(plan.higher[pair])
    if (own) own.push([arc, pair])
    else byArea.set(plan.higher[pair], [[arc, pair]])
  }
  return [...byArea].flatMap(([area, own]) => {
    const { outline, kept } = featureOutline(projected, [area], context.to, context.window)
    if (!kept.length) return []
    // The other half of each line falls away.
    return [
      group(context.featureName(area), linesOf(own, { plan, settings, times: 2 }, context), {
        clip: outline,
      }),
    ]
  })
}

/** Arcs of borders that have a line and are seen, with the pair of areas that they part. */
function bordersOf(
  { low, high, values }: ContrastPlan,
  { projected, to, window }: DrawContext,
): [number, number][] {
  if (projected.kind !== 'areas') return []
  const count = projected.featureStarts.length
  const pairs = new Map<number, number>()
  for (let i = 0; i < low.length; i++) if (Number.isFinite(values[i])) pairs.set(low[i] * count + high[i], i)
  const sides = arcNeighbours(projected)
  const { coords, starts } = projected.arcs
  const [x0, y0] = toMetres(to, window.x, window.y)
  const [x1, y1] = toMetres(to, window.x + window.width, window.y + window.height)
  const found: [number, number][] = []
  const arcs = Math.min(starts.length - 1, projected.cutFrom ?? Infinity)
  for (let arc = 0; arc < arcs; arc++) {
    const [a, b] = [sides[2 * arc], sides[2 * arc + 1]]
    if (a < 0 || b < 0) continue
    const pair = pairs.get(Math.min(a, b) * count + Math.max(a, b))
    if (pair === undefined) continue
    let seen = false
    for (let v = starts[arc]; v < starts[arc + 1] && !seen; v++)
      seen = coords[2 * v] >= x0 && coords[2 * v] <= x1 && coords[2 * v + 1] >= y0 && coords[2 * v + 1] <= y1
    if (seen) found.push([arc, pair])
  }
  return found
}

function linesOf(
  borders: [number, number][],
  { plan, settings, times }: { plan: ContrastPlan; settings: ContrastSettings; times: number },
  { projected, to }: DrawContext,
): Node[] {
  if (projected.kind !== 'areas') return []
  const lines = new Map<string, Line>()
  for (const [arc, pair] of borders) {
    const wide = widthPt(plan, settings, pair)
    const step =
      settings.width === 'classes'
        ? wide
        : (Math.ceil((wide / settings.widestPt) * steps) / steps) * settings.widestPt
    const colour = plan.colours[plan.classOf[pair]] ?? settings.colour
    const key = `${step} ${colour}`
    const known = lines.get(key)
    const name =
      settings.width === 'classes'
        ? `class ${plan.labels[plan.classOf[pair]] ?? ''}`
        : `${step.toFixed(2)} pt`
    if (known) known.arcs.push(arc)
    else lines.set(key, { widthMm: pointsToMm(step) * times, colour, name, arcs: [arc] })
  }
  const { coords, starts } = projected.arcs
  const place = { scale: to.mmPerMetre, dx: to.dx, dy: to.dy }
  return [...lines.values()]
    .sort((a, b) => a.widthMm - b.widthMm)
    .map(({ widthMm, colour, name, arcs }) => {
      const outline: Rings = {
        kind: 'rings',
        coords,
        starts: Uint32Array.from(arcs, (arc) => starts[arc]),
        ends: Uint32Array.from(arcs, (arc) => starts[arc + 1]),
        closed: false,
        place,
      }
      return group(name, [path(outline, { strokes: [stroke(colour, widthMm)] })])
    })
}
