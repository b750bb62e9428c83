import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { Folio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import { Clip, clipOf, pasted } from './clip'
import { copiesOf } from './copies'
import { grouped } from './pile'
import { makeSheet } from './spec'

const { folio } = openDemo()
const [sheet] = folio.sheets
const legend = sheet.parts.find(({ type }) => type === 'legend')!
const main = sheet.parts.find(({ type }) => type === 'panel')!
let n = 0
const newId = () => `new ${n++}`
const empty = makeSheet({
  id: 's',
  name: 'S',
  page: { widthMm: 100, heightMm: 100 },
  margins: { top: 5, right: 5, bottom: 5, left: 5 },
  parts: [],
})

describe('copies', () => {
  it('lean on the copies of what was copied with them, else on what they leaned on', () => {
    const both = copiesOf(sheet, [main.id, legend.id], newId)
    const panel = both.parts.find(({ type }) => type === 'panel')!
    const copy = both.parts.find(({ type }) => type === 'legend')!
    expect(copy.settings).toMatchObject({ panelId: panel.id })
    const [alone] = copiesOf(sheet, [legend.id], newId).parts
    expect(alone.settings).toMatchObject({ panelId: 'main' })
    expect(alone.id).not.toBe(legend.id)
  })

  it('of whole groups are groups again; of a part of one it stands alone', () => {
    const pile = grouped(sheet, [main.id, legend.id], { id: 'g', name: 'G' })
    const whole = copiesOf(pile, [main.id, legend.id], newId)
    expect(whole.groups).toHaveLength(1)
    expect(whole.parts.every(({ groupId }) => groupId === whole.groups[0].id)).toBe(true)
    expect(copiesOf(pile, [legend.id], newId)).toMatchObject({ groups: [], parts: [{ groupId: null }] })
  })
})

describe('pasting', () => {
  const clip = Clip.parse(JSON.parse(JSON.stringify(clipOf(folio, sheet, [main.id, legend.id]))))

  it('into another folio brings the map and every dataset that it draws on', () => {
    const other = { ...emptyFolio('other', 'Other'), sheets: [empty] }
    const added = pasted(clip, other, { sheet: empty, newId, at: [50, 50] })
    expect(added.maps.map(({ id }) => id)).toEqual(['loans'])
    const result = {
      ...other,
      maps: added.maps,
      datasets: added.datasets,
      sheets: [{ ...empty, parts: added.parts }],
    }
    expect(Folio.safeParse(result).success).toBe(true)
    const needed = new Set(added.maps.flatMap(({ layers }) => layers.map(({ datasetId }) => datasetId)))
    for (const id of needed) expect(added.datasets.some((entry) => entry.id === id)).toBe(true)
    expect(added.doubts).toEqual([])
    // The middle of what was pasted lies where it was asked to.
    const xs = added.parts.flatMap(({ box }) => [box.x, box.x + box.width])
    expect((Math.min(...xs) + Math.max(...xs)) / 2).toBeCloseTo(50, 4)
  })

  it('into the same folio brings nothing along, and in place leaves the places', () => {
    const added = pasted(clip, folio, { sheet: empty, newId, at: null })
    expect([added.maps, added.datasets, added.pictures, added.typeStyles]).toEqual([[], [], [], []])
    expect(added.parts.map(({ box }) => box)).toEqual(
      [main, legend].sort((a, b) => sheet.parts.indexOf(a) - sheet.parts.indexOf(b)).map(({ box }) => box),
    )
    const onto = pasted(clip, folio, { sheet, newId, at: null })
    expect(onto.parts.map(({ name }) => name)).toEqual(['Main panel 2', 'Legend 2'])
  })

  it('beside a map of the same id that is another one makes a new one, and says what is doubtful', () => {
    const other = {
      ...folio,
      maps: folio.maps.map((map) => (map.id === 'loans' ? { ...map, background: '#000000' } : map)),
      datasets: folio.datasets.map((entry) => ({ ...entry, credit: 'Somebody else' })),
    }
    const added = pasted(clip, other, { sheet: empty, newId, at: null })
    const panel = added.parts.find(({ type }) => type === 'panel')!
    expect(added.maps[0].id).not.toBe('loans')
    expect(panel.settings).toMatchObject({ mapId: added.maps[0].id })
    expect(
      added.maps[0].layers.every(({ datasetId }) => added.datasets.some(({ id }) => id === datasetId)),
    ).toBe(true)
    // Their steps join tables by id, of which this folio has others.
    expect(added.doubts.length).toBeGreaterThan(0)
  })
})
