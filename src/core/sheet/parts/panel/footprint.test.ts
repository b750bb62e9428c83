import { describe, expect, it } from 'vitest'
import { geodesicMetres } from '@/core/projection/ground'
import { toPaper } from '@/core/geo/paper'
import { paperTransform, unproject, viewProjection } from '@/core/map/view'
import { makeMap } from '@/core/map/spec'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { trace } from '@/core/scene/outline'
import type { PanelView } from '../../part'
import { calloutEnd } from '../callout'
import { northAt, northOf } from '../north-arrow/north'
import { footprintOutline, joiningLines, smallestMm, drawFootprint } from './footprint'

const spec = (id: ProjectionSpec['id'], more: Partial<ProjectionSpec> = {}): ProjectionSpec => ({
  id,
  centre: [10, 50],
  parallels: [40, 60],
  ...more,
})

const box = { x: 20, y: 30, width: 120, height: 80 }

function viewOf(
  projection: ProjectionSpec,
  view: PanelView['view'],
  { window = box, rotationDeg = 0 }: { window?: typeof box; rotationDeg?: number } = {},
): PanelView {
  const map = makeMap({ id: 'm', name: 'M', projection, layers: [] })
  const made = viewProjection(map, view)
  return {
    id: `${window.x}`,
    name: 'P',
    map,
    view,
    projection: made,
    lie: () => made,
    to: paperTransform(made, view, window),
    window,
    frame: { box: window, rotationDeg },
    round: false,
    layers: [],
  }
}

/** The corners of an outline. */
function placesOf(outline: Parameters<typeof trace>[0]): [number, number][] {
  const places: [number, number][] = []
  trace(outline, {
    moveTo: (x, y) => places.push([x, y]),
    lineTo: (x, y) => places.push([x, y]),
    bezierCurveTo: () => undefined,
    closePath: () => undefined,
  })
  return places
}

function distanceTo([px, py]: [number, number], line: [number, number][]): number {
  return Math.min(
    ...line.slice(1).map(([bx, by], i) => {
      const [ax, ay] = line[i]
      const [dx, dy] = [bx - ax, by - ay]
      const t = Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / (dx * dx + dy * dy || 1)))
      return Math.hypot(px - ax - t * dx, py - ay - t * dy)
    }),
  )
}

describe('a footprint', () => {
  const large = viewOf(spec('lambert-azimuthal-equal-area'), {
    centre: [10, 50],
    scaleDenominator: 40_000_000,
  })
  const cases: [string, PanelView][] = [
    ['a conic', viewOf(spec('lambert-conformal-conic'), { centre: [14, 52], scaleDenominator: 9_000_000 })],
    ['a turned one', viewOf(spec('mercator'), { centre: [5, 44], scaleDenominator: 9_000_000, turnDeg: 37 })],
    [
      'a high one',
      viewOf(spec('stereographic', { centre: [10, 90] }), { centre: [10, 58], scaleDenominator: 9_000_000 }),
    ],
  ]
  for (const [what, other] of cases)
    it(`of ${what} lies within 0.1 mm of where its edge really is`, () => {
      const outline = footprintOutline(large, other, false)!
      const line = placesOf(outline)
      line.push(line[0])
      const { x, y, width, height } = other.window
      for (let i = 0; i <= 200; i++) {
        const t = i / 200
        for (const [px, py] of [
          [x + t * width, y],
          [x + t * width, y + height],
          [x, y + t * height],
          [x + width, y + t * height],
        ] as [number, number][]) {
          const place = unproject(other.projection, other.to, px, py)!
          const on = toPaper(large.to, ...large.projection.project(...place))
          expect(distanceTo(on, line)).toBeLessThan(0.1)
        }
      }
    })

  it('across the date line is in one piece on a map that has it in the middle', () => {
    const pacific = viewOf(spec('lambert-azimuthal-equal-area', { centre: [180, 0] }), {
      centre: [180, 0],
      scaleDenominator: 90_000_000,
    })
    const other = viewOf(spec('mercator', { centre: [180, 0] }), {
      centre: [179, 10],
      scaleDenominator: 20_000_000,
    })
    const line = placesOf(footprintOutline(pacific, other, false)!)
    const [xs, ys] = [line.map(([x]) => x), line.map(([, y]) => y)]
    const width = Math.max(...xs) - Math.min(...xs)
    expect(width).toBeGreaterThan(20)
    expect(width).toBeLessThan(40)
    expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(30)
  })

  it('too small to be made out is a mark', () => {
    const tiny = viewOf(spec('mercator'), { centre: [10, 50], scaleDenominator: 100_000 })
    const look = {
      panelId: 'x',
      fill: '#ff0000',
      fillOpacity: 0.2,
      colour: '#ff0000',
      widthPt: 1,
      joined: true,
    }
    const { inside, joins } = drawFootprint(look, { panel: large, other: tiny, round: false, name: 'F' })
    expect(joins).toEqual([])
    expect(JSON.stringify(inside)).toContain(`"kind":"circle"`)
    expect(JSON.stringify(inside)).toContain(`"r":${smallestMm / 2}`)
  })

  it('is joined by the two lines that cross neither outline', () => {
    const small: [number, number][] = [
      [10, 10],
      [20, 10],
      [20, 20],
      [10, 20],
    ]
    const far: [number, number][] = [
      [100, 0],
      [160, 0],
      [160, 60],
      [100, 60],
    ]
    expect(joiningLines(small, far)).toEqual([
      [
        [10, 10],
        [100, 0],
      ],
      [
        [10, 20],
        [100, 60],
      ],
    ])
  })
})

describe('north', () => {
  const specs: ProjectionSpec[] = [
    spec('lambert-conformal-conic'),
    spec('albers-equal-area'),
    spec('lambert-azimuthal-equal-area'),
    spec('transverse-mercator'),
    spec('mollweide'),
    spec('winkel-tripel'),
    spec('stereographic', { centre: [0, 90] }),
  ]
  for (const projection of specs)
    it(`on ${projection.id} is within 0.1° of the geodesic that leaves at azimuth 0`, () => {
      for (const centre of [
        [10, 50],
        [-40, 30],
        [70, 65],
        [12, -20],
      ] as [number, number][])
        for (const turnDeg of [0, 33, -110]) {
          const panel = viewOf(
            projection,
            { centre, scaleDenominator: 1_000_000, turnDeg },
            { rotationDeg: 12 },
          )
          const shown = northOf(panel, 'true')
          if (shown === null) continue
          // Along the meridian, whose azimuth is 0: half a kilometre to either side.
          const [a, b] = [-0.005, 0.005].map((d) => panel.projection.project(centre[0], centre[1] + d))
          const angle = (Math.atan2(b[0] - a[0], -(b[1] - a[1])) * 180) / Math.PI + 12
          const off = ((((shown - angle) % 360) + 540) % 360) - 180
          expect(Math.abs(off)).toBeLessThan(0.1)
          expect(
            geodesicMetres([centre[0], centre[1] - 0.005], [centre[0], centre[1] + 0.005]),
          ).toBeGreaterThan(1000)
        }
    })

  it('along the grid is the turn of the map and of the frame; at the pole there is none', () => {
    const panel = viewOf(
      spec('mercator'),
      { centre: [40, 20], scaleDenominator: 1e6, turnDeg: 25 },
      { rotationDeg: -10 },
    )
    expect(northOf(panel, 'grid')).toBeCloseTo(15, 9)
    expect(northAt(panel.projection, [0, 90])).toBe(null)
  })
})

describe('the end of a callout', () => {
  const settings = { panelId: null, place: [11.5, 51.2] as [number, number] }
  it('stays on its place when the panel pans, turns, changes scale or is turned on the page', () => {
    for (const view of [
      { centre: [10, 50] as [number, number], scaleDenominator: 5_000_000 },
      { centre: [12, 52] as [number, number], scaleDenominator: 2_500_000, turnDeg: 70 },
      { centre: [11, 51] as [number, number], scaleDenominator: 3_000_000, turnDeg: -130 },
    ])
      for (const rotationDeg of [0, 20]) {
        const panel = viewOf(spec('albers-equal-area'), view, { rotationDeg })
        const frame = { box: { x: 5, y: 5, width: 30, height: 8 }, rotationDeg: 45 }
        const end = calloutEnd(settings, frame, { panel: () => panel })!
        // Back from the callout's own space to the page, into the panel, and to the ground.
        const [cx, cy] = [20, 9]
        const turn = (x: number, y: number, [mx, my]: number[], deg: number) => {
          const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
          return [mx + (x - mx) * c - (y - my) * s, my + (x - mx) * s + (y - my) * c]
        }
        const [px, py] = turn(end[0], end[1], [cx, cy], 45)
        const [ux, uy] = turn(px, py, [80, 70], -rotationDeg)
        const place = unproject(panel.projection, panel.to, ux, uy)!
        expect(geodesicMetres(place, settings.place)).toBeLessThan(1)
      }
  })

  it('is not drawn where the place lies outside the panel', () => {
    const panel = viewOf(spec('albers-equal-area'), { centre: [40, 10], scaleDenominator: 1_000_000 })
    expect(calloutEnd(settings, { box, rotationDeg: 0 }, { panel: () => panel })).toBe(null)
    expect(calloutEnd(settings, { box, rotationDeg: 0 }, { panel: () => null })).toBe(null)
  })
})
