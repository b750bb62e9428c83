import { describe, expect, it } from 'vitest'
import { toMetres, type PaperTransform } from '@/core/geo/paper'
import { drain } from '@/core/grid/steps'
import { createProjection, type Projection } from '@/core/projection/projection'
import { walk, type Group, type Node } from '@/core/scene/scene'
import { cellOver, gridData, paperOver, projection } from '../cells-on-paper/testing'
import type { KindData } from '../kind'
import { isolines, type IsolineSettings } from '../isolines'
import { finerCells, linesThrough, rangeOf } from './finer'

/** A cone that falls by one for each cell that a place lies away from its peak, in ripples of eight cells. */
const peak = [2000, 1000] as const
const height = (away: number): number => 1000 - away + Math.sin((2 * Math.PI * away) / 8)
const data = gridData(4000, 2000, (c, r) => height(Math.hypot(c + 0.5 - peak[0], r + 0.5 - peak[1])))
/** In the same place, with cells of a thousandth of a degree. */
data.dataset.raster!.transform = Float64Array.of(-30, 0.001, 0, 50, 0, -0.001)
data.dataset.raster!.edge = Float64Array.of(-30, 50, -26, 50, -26, 48, -30, 48)

/** The window over so many millimetres to a metre, with the peak in its middle. */
function near(mmPerMetre: number): PaperTransform {
  const [x, y] = projection.project(-28, 49)
  return { mmPerMetre, dx: 50 - x * mmPerMetre, dy: 40 - y * mmPerMetre }
}
const close = near(100 / 20_000)

const settings: IsolineSettings = { ...isolines.initial(data), form: 'lines', interval: 20 }
settings.lines = { ...settings.lines, numbered: 'none' }

function drawn(own: Partial<IsolineSettings>, to: PaperTransform, of: KindData = data): Node[] {
  const all = { ...settings, ...own }
  const plan = isolines.plan(all, of)
  const shapes = drain(isolines.shapes!.make(plan, all, of, projection.spec))
  return isolines.draw(plan, all, paperOver(of.dataset, to), shapes)
}

/** The groups of some name that are drawn. */
const groups = (nodes: Node[], name: RegExp): Group[] =>
  [...walk(nodes)].filter((node): node is Group => node.type === 'group' && name.test(node.name))

/** Rings and lines in a group, in columns and rows of the raster from the peak. */
function ringsIn(group: Group, to: PaperTransform): [number, number][][] {
  return [...walk([group])].flatMap((node) => {
    if (node.type !== 'path' || node.outline.kind !== 'rings') return []
    const { coords, starts, ends } = node.outline
    return [...starts].map((start, ring) => {
      const places: [number, number][] = []
      for (let v = start; v < ends[ring]; v++) {
        const at = projection.invert(...toMetres(to, coords[2 * v], coords[2 * v + 1]))!
        places.push([(at[0] + 30) / 0.001 - peak[0], (50 - at[1]) / 0.001 - peak[1]])
      }
      return places
    })
  })
}

describe('lines through a raster at a close scale', () => {
  it('run where its cells reach their level, ripples too; those of the surface do not', () => {
    const worst = (own: Partial<IsolineSettings>): number => {
      const offs = groups(drawn(own, close), /^line /).flatMap((group) => {
        const level = Number(group.name.slice(5).replace(/\D/g, ''))
        if (level > 970) return []
        return (
          ringsIn(group, close)
            .flat()
            // Outside of the window, which is 274 by 144 cells, lines end on the edge of what is reckoned.
            .filter(([x, y]) => Math.abs(x) < 136 && Math.abs(y) < 71)
            .map(([x, y]) => Math.abs(height(Math.hypot(x, y)) - level))
        )
      })
      expect(offs.length).toBeGreaterThan(200)
      return Math.max(...offs)
    }
    expect(worst({})).toBeLessThan(0.2)
    expect(worst({ cellKm: 0.4 })).toBeGreaterThan(0.5)
  })

  it('have levels that only fine cells reach', () => {
    const own = { interval: 1, least: 900 }
    const plan = isolines.plan({ ...settings, ...own }, data)
    expect(plan.max).toBeLessThan(999)
    expect(groups(drawn(own, close), /^line 999$/)).toHaveLength(1)
  })

  it('are those of the surface where paper shows no finer cells, or what was smoothed away is wider', () => {
    const fine = { raster: data.dataset.raster!, band: 0, sigmaM: 0, cellM: null }
    const surfaceM = isolines.plan(settings, data).cellM
    expect(finerCells(fine, surfaceM, paperOver(data.dataset, close))).not.toBeNull()
    expect(finerCells(fine, surfaceM, paperOver(data.dataset, near(1 / 5_000)))).toBeNull()
    expect(finerCells({ ...fine, sigmaM: 3 * surfaceM }, surfaceM, paperOver(data.dataset, close))).toBeNull()
    expect(finerCells({ ...fine, cellM: surfaceM }, surfaceM, paperOver(data.dataset, close))).toBeNull()
  })

  it('agree with what is read under the pointer', () => {
    const plan = isolines.plan(settings, data)
    const made = drain(isolines.shapes!.make(plan, settings, data, projection.spec))
    for (const away of [42, 44, 46, 48]) {
      const place: [number, number] = [-28 + away * 0.001, 49]
      const read = isolines.shapes!.at!(made, place, { plan, settings, data } as never)
      expect(parseFloat(read!.reading!.value)).toBeCloseTo(height(away), 0)
    }
  })

  it('bound classes that cover the ground between them', () => {
    const nodes = drawn({ form: 'bands', method: 'manual', manualBreaks: [940, 960], interval: null }, close)
    const classes = groups(nodes, /^class /)
    expect(classes).toHaveLength(3)
    const area = (ring: [number, number][]): number =>
      ring.reduce((sum, [x, y], i) => {
        const [nx, ny] = ring[(i + 1) % ring.length]
        return sum + (x * ny - nx * y) / 2
      }, 0)
    const [, ring, cap] = classes.map((group) => ringsIn(group, close).reduce((sum, r) => sum + area(r), 0))
    expect(Math.abs(ring)).toBeCloseTo(Math.PI * (60 ** 2 - 40 ** 2), -2)
    expect(Math.abs(cap)).toBeCloseTo(Math.PI * 40 ** 2, -2)
    expect(Math.sign(ring)).toBe(Math.sign(cap))
  })
})

/** Places along all pieces of a line, twenty to each. */
const evenly = (line: Float64Array): [number, number][] =>
  Array.from({ length: 20 * (line.length / 2 - 1) }, (_, k) => {
    const [i, share] = [2 * Math.floor(k / 20), (k % 20) / 20]
    return [line[i] + (line[i + 2] - line[i]) * share, line[i + 1] + (line[i + 3] - line[i + 1]) * share]
  })

describe('lines through a raster of the whole globe', () => {
  const [wide, high] = [1800, 900]
  const globe = gridData(wide, high, (_, r) => 90 - (r + 0.5) / 5)
  const raster = globe.dataset.raster!
  raster.transform = Float64Array.of(-180, 0.2, 0, 90, 0, -0.2)
  raster.edge = Float64Array.from(
    Array.from({ length: 73 }, (_, i) => -180 + 5 * i).flatMap((lon) => [lon, 90, lon, -90]),
  )
  const pole = createProjection({ id: 'lambert-azimuthal-equal-area', centre: [0, 90], parallels: [0, 0] })
  const worldwide = createProjection({ id: 'equal-earth', centre: [150, 0], parallels: [0, 0] })

  for (const [where, plane, middle] of [
    ['about a pole', pole, [180, 89.5]],
    ['over the date line', worldwide, [180, 20]],
  ] as [string, Projection, [number, number]][])
    it(`go on ${where}`, () => {
      const mmPerMetre = 100 / 1_000_000
      const [x, y] = plane.project(...middle)
      const to = { mmPerMetre, dx: 50 - x * mmPerMetre, dy: 40 - y * mmPerMetre }
      const context = { ...paperOver(globe.dataset, to), projection: plane }
      const cells = finerCells({ raster, band: 0, sigmaM: 0, cellM: null }, 40_000, context)!
      const levels = [19.5, 20.1, 86.3, 89.1]
      const places = linesThrough(cells, levels, context).flatMap(({ level, lines }) =>
        lines.flatMap((line) =>
          evenly(line)
            .filter(([px, py]) => px > 0 && px < 100 && py > 0 && py < 80)
            .map(([px, py]) => {
              const [lon, lat] = plane.invert(...toMetres(to, px, py))!
              return { level, lon: ((lon % 360) + 360) % 360, lat }
            }),
        ),
      )
      expect(new Set(places.map(({ level }) => level)).size).toBe(2)
      for (const { level, lat } of places) expect(Math.abs(lat - level)).toBeLessThan(0.03)
      // On either side of the meridian at which the raster begins and ends.
      expect(places.some(({ lon }) => lon < 180 && lon > 170)).toBe(true)
      expect(places.some(({ lon }) => lon > 180 && lon < 190)).toBe(true)
    })

  it('have no gap where the plane of the surface ends, however fine that is', () => {
    const context = {
      ...paperOver(globe.dataset, { mmPerMetre: 1e-5, dx: 50, dy: 40 }),
      projection: worldwide,
    }
    const fine = { raster, band: 0, sigmaM: 0, cellM: null }
    const [{ lines }] = linesThrough(finerCells(fine, 10, context)!, [30.1], context)
    const seam = worldwide.project(180, 30.1)[0] * 1e-5 + 50
    expect(lines).toHaveLength(1)
    const along = evenly(lines[0]).map(([px]) => px)
    expect(Math.min(...along)).toBeLessThan(seam)
    expect(Math.max(...along)).toBeGreaterThan(seam)
  })

  it('take no more cells than what is left after smoothing has', () => {
    const context = {
      ...paperOver(globe.dataset, { mmPerMetre: 1e-3, dx: 50, dy: 40 }),
      projection: worldwide,
    }
    const cells = finerCells({ raster, band: 0, sigmaM: 500_000, cellM: null }, 40_000, context)!
    expect(cells.columns * cells.rows).toBeLessThan(20_000)
    const { min, max } = rangeOf(cells)!
    // In the middle lies the equator, and what is smoothed is a plane.
    expect((min + max) / 2).toBeCloseTo(0, 0)
  })

  it('reach to the ends of a map of the world, wherever it is cut', () => {
    const mmPerMetre = 100 / 36_000_000
    const context = { ...paperOver(globe.dataset, { mmPerMetre, dx: 50, dy: 40 }), projection: worldwide }
    const cells = finerCells({ raster, band: 0, sigmaM: 0, cellM: null }, 1e6, context)!
    const [{ lines }] = linesThrough(cells, [30.1], context)
    const along = lines.flatMap((line) => [...line.filter((_, i) => i % 2 === 0)])
    const end = (lon: number): number => worldwide.project(lon, 30.1)[0] * mmPerMetre + 50
    expect(Math.min(...along)).toBeCloseTo(end(-29.9), 0)
    expect(Math.max(...along)).toBeCloseTo(end(329.9), 0)
  })
})

describe('a tint of a raster at a close scale', () => {
  it('ends where its cells do', () => {
    const [picture] = drawn({ form: 'tint', least: 990 }, close)
    if (picture.type !== 'raster') throw new Error('There is no picture.')
    const opacityAt = (columns: number): number =>
      cellOver(picture, { to: close }, [-28 + columns * 0.001, 49])[3]
    expect([9, -9].map(opacityAt)).toEqual([255, 255])
    expect([11, -11].map(opacityAt)).toEqual([0, 0])
  })
})
