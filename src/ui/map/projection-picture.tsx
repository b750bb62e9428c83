'use client'
import { useEffect, useState } from 'react'
import { eachVertex, type Lines } from '@/core/geo/geometry'
import { tearGeometry } from '@/core/geo/sphere/tear'
import type { ProjectionId, ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, takeIn } from '@/core/scene/bounds'

const far: ProjectionId[] = ['mercator', 'lambert-conformal-conic', 'transverse-mercator', 'miller']
/** Meridians and parallels every twenty degrees, of pieces of three. */
const network = ((): Lines => {
  const runs: [number, number][][] = []
  const steps = Array.from({ length: 61 }, (_, i) => 3 * i)
  for (let lon = -180; lon < 180; lon += 20) runs.push(steps.slice(4, 57).map((i) => [lon, i - 90]))
  for (let lat = -80; lat <= 80; lat += 20)
    runs.push([...steps, ...steps.slice(1).map((i) => i + 180)].map((i) => [i - 180, lat]))
  const starts = new Uint32Array(runs.length + 1)
  runs.forEach((run, i) => (starts[i + 1] = starts[i] + run.length))
  const each = Uint32Array.from(starts, (_, i) => i)
  return {
    kind: 'lines',
    arcs: { coords: Float64Array.from(runs.flat(2)), starts },
    refs: Int32Array.from(runs, (_, i) => i),
    ringStarts: each,
    featureStarts: each,
  }
})()

const [pictureWidth, pictureHeight] = [60, 38]

/** The world's graticule in a projection, torn as the map is; it comes in its turn, so that no key has to wait. */
export function ProjectionPicture({ spec }: { spec: ProjectionSpec }) {
  const key = JSON.stringify(spec)
  const [, drawn] = useState('')
  useEffect(() => {
    if (pictures.has(key)) return
    return inTurn(() => {
      pictures.set(key, drawPicture(JSON.parse(key) as ProjectionSpec))
      drawn(key)
    })
  }, [key])
  return (
    <svg width={pictureWidth} height={pictureHeight} className="shrink-0 overflow-hidden" aria-hidden>
      <path d={pictures.get(key)} fill="none" stroke="currentColor" strokeWidth={0.4} />
    </svg>
  )
}

/** Pictures by their projections: each is reckoned once. */
const pictures = new Map<string, string>()

const waiting = new Set<() => void>()

/** Does something once nothing else is to be done, one thing at a time. @returns takes it back */
function inTurn(job: () => void): () => void {
  const next = () =>
    setTimeout(() => {
      const [first] = waiting
      if (!first) return
      waiting.delete(first)
      first()
      if (waiting.size) next()
    })
  if (!waiting.size) next()
  waiting.add(job)
  return () => void waiting.delete(job)
}

function drawPicture(spec: ProjectionSpec): string {
  const projection = createProjection(spec)
  const bounds = emptyBounds()
  // What lies far beyond the usual part of some would leave nothing to be seen of it.
  if (far.includes(spec.id))
    for (const lon of [-150, -75, 0, 75, 150])
      for (const lat of [-50, 0, 50, 75]) {
        const [x, y] = projection.project(lon + spec.centre[0], lat)
        if (Number.isFinite(x)) takeIn(bounds, Float64Array.of(x, y))
      }
  else for (const ring of projection.edge()) takeIn(bounds, Float64Array.from(ring))
  const [x0, y0, x1, y1] = bounds
  const scale = Math.min(pictureWidth / (x1 - x0), pictureHeight / (y1 - y0))
  const place = (x: number, y: number) =>
    `${((x - (x0 + x1) / 2) * scale + pictureWidth / 2).toFixed(1)},${((y - (y0 + y1) / 2) * scale + pictureHeight / 2).toFixed(1)}`
  const { arcs, ringStarts, ...torn } = tearGeometry(network, projection.frame)
  return Array.from({ length: ringStarts.length - 1 }, (_, r) => {
    const places: string[] = []
    eachVertex({ arcs, ringStarts, ...torn }, r, (v) => {
      const next = place(arcs.coords[2 * v], arcs.coords[2 * v + 1])
      if (next !== places[places.length - 1]) places.push(next)
    })
    return `M${places.join('L')}`
  }).join('')
}
