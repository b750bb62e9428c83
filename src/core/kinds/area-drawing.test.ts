import { topology } from 'topojson-server'
import type { FeatureCollection } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { lab } from 'd3-color'
import { describe, expect, it } from 'vitest'
import { textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromTopology } from '@/core/geo/from-topology'
import { projectGeometry } from '@/core/geo/projected'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import { outlineBox } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { walk, type Group, type Node, type Path } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { darker, drawAreas, plainAreaLook, type AreaLook } from './area-drawing'
import type { DrawContext } from './kind'

/** A row of squares of one degree from 10° east, each with the name of its group. */
function row(groups: string[], from = 10): Dataset {
  const features = groups.map((_, i) => ({
    type: 'Feature',
    properties: {},
    geometry: {
      type: 'Polygon',
      coordinates: [
        [
          [from + i, 50],
          [from + i + 1, 50],
          [from + i + 1, 51],
          [from + i, 51],
          [from + i, 50],
        ],
      ],
    },
  }))
  const built = topology({ all: { type: 'FeatureCollection', features } as FeatureCollection })
  return {
    rowCount: groups.length,
    geometry: geometryFromTopology(built, built.objects.all as GeometryObject),
    fields: [{ key: 'province', column: textColumn(groups) }],
  }
}

const dataset = row(['a', 'a', 'b', 'b'])
const projection = createProjection(adviseEqualArea([10, 50, 14, 51]))
const context: DrawContext = {
  dataset,
  projection,
  projected: projectGeometry(dataset.geometry, projection),
  to: { mmPerMetre: 1e-4, dx: 50, dy: 560 },
  window: { x: -100, y: -100, width: 400, height: 400 },
  fonts: createFontBook(),
  toleranceMm: 0.01,
  datasetOf: (id) => (id === 'towns' ? row(['x'], 11) : null),
  featureName: String,
}
const classes = [
  { name: 'class low', fill: solid('#e0e0e0'), members: [0, 2] },
  { name: 'class high', fill: solid('#406080'), members: [1, 3] },
]
const draw = (change: (look: AreaLook) => void): Node[] => {
  const look = plainAreaLook()
  change(look)
  return drawAreas(classes, look, context)
}
const groupOf = (nodes: Node[], id: string): Group => {
  for (const node of walk(nodes)) if (node.type === 'group' && node.id === id) return node
  throw new Error(`There is no ${id}.`)
}
const pathsIn = (group: Group): Path[] => group.children.filter((node) => node.type === 'path')
const lines = ({ outline }: Path): number => (outline.kind === 'rings' ? outline.starts.length : 0)

describe('lines between areas', () => {
  it('are drawn once for each border, and heavier between groups', () => {
    const borders = pathsIn(
      groupOf(
        draw(({ outline }) => void (outline.level = { field: 'province', colour: '#000000', widthPt: 1 })),
        'borders',
      ),
    )
    // Three borders between four squares, one of them between provinces, and the outer edge.
    expect(borders.map(lines).slice(0, 2)).toEqual([3, 1])
    expect(borders[1].strokes[0]).toMatchObject({ colour: '#000000' })
  })

  it('are left out within groups where only groups are to have some', () => {
    const borders = pathsIn(
      groupOf(
        draw(({ outline }) =>
          Object.assign(outline, {
            widthPt: 0,
            coastWidthPt: 0,
            level: { field: 'province', colour: '#000000', widthPt: 1 },
          }),
        ),
        'borders',
      ),
    )
    expect(borders.map(lines)).toEqual([1])
  })

  it('can be a darker shade of each area’s own', () => {
    const nodes = draw(({ outline }) => void (outline.from = 'fill'))
    const [low] = pathsIn(groupOf(nodes, 'class low'))
    expect(low.strokes[0].colour).toBe(darker('#e0e0e0'))
    for (const colour of ['#e0e0e0', '#406080', '#ffffcc', '#222222'])
      expect(lab(darker(colour)).l).toBeLessThan(lab(colour).l)
  })
})

describe('the ground that is shaded', () => {
  it('is what the mask covers; whole areas are flat elsewhere', () => {
    const nodes = draw((look) => void (look.mask = { datasetId: 'towns', elsewhere: '#f0efe9' }))
    const [flat] = pathsIn(groupOf(nodes, 'elsewhere'))
    expect(flat).toMatchObject({ fill: { type: 'solid', colour: '#f0efe9' } })
    const { clip } = groupOf(nodes, 'within the mask')
    const [whole, part] = [outlineBox(flat.outline), clip && outlineBox(clip)]
    // One of four squares.
    expect((part?.width ?? 0) / (whole?.width ?? 1)).toBeCloseTo(0.25, 1)
  })

  it('is whole areas where the mask is not there', () => {
    const nodes = draw((look) => void (look.mask = { datasetId: 'gone', elsewhere: '#f0efe9' }))
    expect(nodes.map((node) => node.type === 'group' && node.id)).toEqual([
      'class low',
      'class high',
      'borders',
    ])
  })

  it('has the classes drawn last that are to lie over the others', () => {
    const order = (last: AreaLook['last']) =>
      draw((look) => void (look.last = last)).map((node) => node.type === 'group' && node.id)
    expect(order('high')).toEqual(['class low', 'class high', 'borders'])
    expect(order('low')).toEqual(['class high', 'class low', 'borders'])
  })
})
