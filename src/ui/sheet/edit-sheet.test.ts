import { beforeEach, describe, expect, it, vi } from 'vitest'
import { openDemo } from '../../../demo/open'
import type { Part, Sheet } from '@/core/sheet/spec'
import { folioNow, useFolio } from '../shell/folio-store'
import { copyParts, cutParts, pasteParts } from './clipboard'
import {
  addCopies,
  addPart,
  deleteParts,
  duplicateParts,
  editPart,
  groupParts,
  liftParts,
  movePartBeside,
  settingsChanger,
  toggleHidden,
  toggleLocked,
  ungroupParts,
} from './edit-sheet'
import { hitUnit, partsAt, partsWithin, unitBeneath, unitsWithBoxes } from './selecting'

const { folio } = openDemo()
const [{ id: sheetId }] = folio.sheets
const state = () => useFolio.getState()
const sheet = (): Sheet => folioNow().sheets[0]
const named = (name: string): Part => sheet().parts.find((part) => part.name === name)!
const names = () => sheet().parts.map(({ name }) => name)
const frameOf = ({ box, rotationDeg }: Part) => ({ box, rotationDeg })
const middle = ({ box }: Part): [number, number] => [box.x + box.width / 2, box.y + box.height / 2]

beforeEach(() => {
  state().adopt(structuredClone(folio), 1, '2026-01-31T10:00:00Z')
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  })
})

describe('parts of a sheet', () => {
  it('are added, deleted and brought back in one step each', () => {
    const before = names()
    addPart(sheetId, { ...named('Title'), id: 'new', name: 'Another' } as Part)
    expect(names()).toEqual([...before, 'Another'])
    expect(state().selection.partIds).toEqual(['new'])
    deleteParts(sheetId, [named('Another'), named('Title')])
    expect(names()).toEqual(before.filter((name) => name !== 'Title'))
    expect(state().selection.partIds).toEqual([])
    state().undo()
    expect(names()).toEqual([...before, 'Another'])
    state().undo()
    expect(names()).toEqual(before)
    deleteParts(sheetId, [])
    expect(names()).toEqual(before)
  })

  it('are changed by their type alone; a part that became another type stays as it is', () => {
    const title = named('Title')
    settingsChanger(sheetId, { id: title.id, type: 'text' })('Words', (s) => void (s.text = 'Other words'))
    expect(named('Title').settings).toMatchObject({ text: 'Other words' })
    settingsChanger(sheetId, { id: title.id, type: 'legend' })('Note', (s) => void (s.note = 'x'))
    expect(named('Title').settings).not.toHaveProperty('note')
    editPart({ sheetId, partId: 'none' }, 'Nothing', (part) => void (part.name = 'x'))
    expect(names()).not.toContain('x')
  })

  it('are repeated at a distance under names of their own', () => {
    const legend = named('Legend')
    const ids = addCopies(sheetId, [legend], { name: 'Repeat', shift: [10, 2], times: 3 })
    const copies = sheet().parts.filter(({ id }) => ids.includes(id))
    expect(copies.map(({ name }) => name)).toEqual(['Legend 2', 'Legend 3', 'Legend 4'])
    expect(copies.map(({ box }) => [box.x - legend.box.x, box.y - legend.box.y])).toEqual([
      [10, 2],
      [20, 4],
      [30, 6],
    ])
    duplicateParts(sheetId, [legend])
    expect(state().selection.partIds).toHaveLength(1)
    expect(names()).toContain('Legend 5')
  })

  it('are grouped and taken apart, hidden and locked together, and moved in the pile', () => {
    const [title, subtitle] = [named('Title'), named('Subtitle')]
    groupParts(sheetId, [title.id])
    expect(sheet().groups).toEqual([])
    groupParts(sheetId, [title.id, subtitle.id])
    const [group] = sheet().groups
    expect(group.name).toBe('Group')
    expect([named('Title').groupId, named('Subtitle').groupId]).toEqual([group.id, group.id])
    toggleHidden(sheetId, [named('Title'), named('Legend')])
    expect([named('Title').hidden, named('Legend').hidden]).toEqual([true, true])
    toggleHidden(sheetId, [named('Title'), named('Legend')])
    expect([named('Title').hidden, named('Legend').hidden]).toEqual([false, false])
    toggleLocked(sheetId, [named('Title')])
    toggleLocked(sheetId, [named('Title'), named('Legend')])
    expect([named('Title').locked, named('Legend').locked]).toEqual([true, true])
    ungroupParts(sheetId, [group.id])
    expect(sheet().groups).toEqual([])
    liftParts(sheetId, [title.id], 'bottom')
    expect(names()[0]).toBe('Title')
    movePartBeside(sheetId, title.id, { besideId: subtitle.id, above: true })
    expect(names().indexOf('Title')).toBe(names().indexOf('Subtitle') + 1)
  })
})

describe('copying', () => {
  it('brings parts onto another sheet, where they were or under a place', () => {
    const [, other] = folioNow().sheets
    copyParts(sheet(), [named('Title')])
    pasteParts(other, null)
    const there = () => folioNow().sheets[1].parts.at(-1)!
    expect(there().box).toEqual(named('Title').box)
    pasteParts(other, [100, 100])
    expect(middle(there())[0]).toBeCloseTo(100, 6)
    expect(state().selection.partIds).toEqual([there().id])
  })

  it('cuts them out of the sheet, which is undone', () => {
    const before = names()
    cutParts(sheet(), [named('Title'), named('Legend')])
    expect(names()).toHaveLength(before.length - 2)
    pasteParts(sheet(), null)
    expect(names().slice(-2).sort()).toEqual(['Legend', 'Title'])
    state().undo()
    state().undo()
    expect(names()).toEqual(before)
  })

  it('says so where there is nothing to paste, or too much to copy', () => {
    pasteParts(sheet(), null)
    expect(state().notice?.text).toBe('There are no parts to paste: copy some first.')
    vi.stubGlobal('localStorage', {
      getItem: () => '{"broken',
      setItem: () => {
        throw new Error('full')
      },
    })
    copyParts(sheet(), [named('Title')])
    expect(state().notice?.text).toContain('too large')
    pasteParts(sheet(), null)
    expect(state().notice?.text).toContain('no parts to paste')
  })
})

describe('what a press takes hold of', () => {
  it('is the topmost part that can be, and what lies beneath on the next press', () => {
    const legend = named('Legend')
    const place = middle(legend)
    expect(partsAt(sheet(), place, frameOf).map(({ name }) => name)).toEqual(['Legend', 'Main panel'])
    expect(hitUnit(sheet(), place, { entered: null, frameOf })?.part.name).toBe('Legend')
    expect(unitBeneath(sheet(), place, [legend.id], frameOf).map(({ name }) => name)).toEqual(['Main panel'])
    const lowest = named('Main panel').id
    expect(unitBeneath(sheet(), place, [lowest], frameOf).map(({ name }) => name)).toEqual(['Legend'])
    toggleLocked(sheetId, [named('Legend')])
    expect(hitUnit(sheet(), place, { entered: null, frameOf })?.part.name).toBe('Main panel')
    expect(hitUnit(sheet(), [-50, -50], { entered: null, frameOf })).toBeNull()
  })

  it('is a whole group, or one of its parts where it was entered', () => {
    groupParts(sheetId, [named('Title').id, named('Subtitle').id])
    const [group] = sheet().groups
    const place = middle(named('Title'))
    expect(
      hitUnit(sheet(), place, { entered: null, frameOf })
        ?.unit.map(({ name }) => name)
        .sort(),
    ).toEqual(['Subtitle', 'Title'])
    expect(hitUnit(sheet(), place, { entered: group.id, frameOf })?.unit.map(({ name }) => name)).toEqual([
      'Title',
    ])
    const units = unitsWithBoxes(sheet(), [named('Title').id, named('Subtitle').id], frameOf)
    expect(units.map(({ id }) => id)).toEqual([group.id])
  })

  it('is within a frame only what lies wholly in it, groups as a whole', () => {
    const all = { x: 0, y: 0, width: 400, height: 400 }
    expect(partsWithin(sheet(), all, { entered: null, frameOf })).toHaveLength(sheet().parts.length)
    const { box } = named('Title')
    const around = { x: box.x - 1, y: box.y - 1, width: box.width + 2, height: box.height + 2 }
    const inside = () => partsWithin(sheet(), around, { entered: null, frameOf }).map(({ name }) => name)
    expect(inside()).toContain('Title')
    groupParts(sheetId, [named('Title').id, named('Scale bar').id])
    expect(inside()).not.toContain('Title')
  })
})
