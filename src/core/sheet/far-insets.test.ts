import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { farPartsOf } from '@/core/geo/far-parts'
import type { Areas } from '@/core/geo/geometry'
import { coordsOf } from '@/core/geo/geometry'
import { paperTransform } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import { farInsets } from './far-insets'
import { newSheet } from './new-sheet'
import { panelsOf } from './panel-view'

const { folio, datasets } = openDemo()
const [map] = folio.maps
let n = 0
const newId = () => `id-${n++}`
const sheet = newSheet(map, datasets, { name: 'Page', newId })
const [panel] = panelsOf(sheet)
const plain = sheet.parts.filter(({ type }) => ['panel', 'legend', 'scale-bar'].includes(type)).slice(0, 3)
const insets = farInsets({ panel, others: plain.slice(1), map, datasets, newId })
const districts = [...datasets.values()].find(({ entry }) => entry.name === 'Districts')

describe('insets of far parts', () => {
  it('show every far part whole, at the scale of the panel or at a round one', () => {
    const far = farPartsOf(districts?.dataset.geometry as Areas)?.far ?? []
    const panels = insets.flatMap((part) => (part.type === 'panel' ? [part] : []))
    expect(panels).toHaveLength(far.length)
    panels.forEach(({ box, settings: { view, mapId } }, i) => {
      expect(mapId).toBe(map.id)
      const projection = createProjection(map.projection)
      const to = paperTransform(projection, view, box)
      const coords = coordsOf(far[i].areas)
      for (let v = 0; v < coords.length; v += 2) {
        const [x, y] = projection.project(coords[v], coords[v + 1])
        expect(Math.abs(x * to.mmPerMetre + to.dx - (box.x + box.width / 2))).toBeLessThan(box.width / 2)
        expect(Math.abs(y * to.mmPerMetre + to.dy - (box.y + box.height / 2))).toBeLessThan(
          box.height / 2 + 0.01,
        )
      }
    })
  })

  it('come with the first page', () => {
    expect(panelsOf(sheet).length).toBe(1 + insets.filter(({ type }) => type === 'panel').length)
  })

  it('lie on the panel, over no legend and no other inset, with a name each', () => {
    const boxes = [
      ...insets.filter(({ type }) => type === 'panel'),
      ...plain.filter(({ type }) => type === 'legend'),
    ]
    for (const [i, one] of boxes.entries())
      for (const other of boxes.slice(i + 1)) {
        const apart =
          one.box.x + one.box.width <= other.box.x + 1.5 ||
          other.box.x + other.box.width <= one.box.x + 1.5 ||
          one.box.y + one.box.height <= other.box.y + 1.5 ||
          other.box.y + other.box.height <= one.box.y + 1.5
        expect(apart, `${one.name} and ${other.name}`).toBe(true)
      }
    expect(insets.filter(({ type }) => type === 'text').map(({ name }) => name)).toEqual(
      insets.filter(({ type }) => type === 'panel').map(({ name }) => `Name of ${name}`),
    )
  })
})
