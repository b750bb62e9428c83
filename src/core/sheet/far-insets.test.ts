import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { farPartsOf } from '@/core/geo/far-parts'
import type { Areas } from '@/core/geo/geometry'
import { coordsOf } from '@/core/geo/geometry'
import { paperTransform } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import { farInsets } from './far-insets'
import { roomIn } from './map-room'
import { newSheet } from './new-sheet'
import { panelOf } from './parts/panel'
import { panelsOf, type PanelPart } from './panel-view'
import type { Part } from './registry'

const { folio, datasets } = openDemo()
const [map] = folio.maps
let n = 0
const newId = () => `id-${n++}`
const sheet = newSheet(map, datasets, { name: 'Page', newId })
const [panel] = panelsOf(sheet)
const plain = sheet.parts.filter(({ type }) => ['panel', 'legend', 'scale-bar'].includes(type)).slice(0, 3)
const roomOf = (one: PanelPart, others: Part[]) =>
  roomIn(map, datasets, {
    view: one.settings.view,
    panel: one.box,
    boxes: others.map(({ box }) => box),
  })
const others = plain.slice(1)
const { parts: insets } = farInsets({ panel, others, map, datasets, newId, room: roomOf(panel, others) })
const districts = [...datasets.values()].find(({ entry }) => entry.name === 'Districts')

describe('insets of far parts', () => {
  it('show every far part whole, at the scale of the panel or at a round one', () => {
    const far = farPartsOf(districts?.dataset.geometry as Areas)?.far ?? []
    const panels = insets.flatMap((part) => (part.type === 'panel' ? [part] : []))
    expect(panels).toHaveLength(far.length)
    panels.forEach(({ box, settings: { view, mapId, projection } }, i) => {
      expect(mapId).toBe(map.id)
      expect(projection?.id).toBe('lambert-azimuthal-equal-area')
      const own = createProjection(projection ?? map.projection)
      const to = paperTransform(own, view, box)
      const coords = coordsOf(far[i].areas)
      for (let v = 0; v < coords.length; v += 2) {
        const [x, y] = own.project(coords[v], coords[v + 1])
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

  it('stand upright where the plane of the map would lay them askew', () => {
    for (const part of insets) {
      if (part.type !== 'panel') continue
      const { view, projection } = part.settings
      const turned = (spec: typeof map.projection) => {
        const [lon, lat] = view.centre
        const [x0, y0] = createProjection(spec).project(lon, lat - 0.1)
        const [x1, y1] = createProjection(spec).project(lon, lat + 0.1)
        return Math.abs((Math.atan2(x1 - x0, y0 - y1) * 180) / Math.PI)
      }
      expect(turned(projection ?? map.projection)).toBeLessThan(1)
    }
  })

  it('give way in size rather than lie over the land, each with its name above it', () => {
    const all = new Map(datasets)
    const box = { ...panel.box, width: 110, height: 70 }
    const tight = { ...panel, box, settings: panelOf(map, datasets, box) }
    const { parts, taken } = farInsets({
      ...{ panel: tight, others: [], map, datasets: all, newId },
      room: roomOf(tight, []),
    })
    expect(taken).toBeLessThan(0.02)
    const panels = parts.filter(({ type }) => type === 'panel')
    expect(panels.length).toBeGreaterThan(0)
    for (const { name, box } of panels) {
      expect(box.width).toBeLessThan(0.4 * tight.box.width)
      const caption = parts.find((part) => part.name === `Name of ${name}`)
      expect((caption?.box.y ?? NaN) + (caption?.box.height ?? NaN)).toBeLessThanOrEqual(box.y)
    }
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
