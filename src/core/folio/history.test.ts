import fc from 'fast-check'
import type { Draft } from 'immer'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { edit, redo, seal, startHistory, undo, type History } from './history'
import { folioToJson, readFolio, type Folio } from './schema'

const { folio } = openDemo()

/** Edits of every sort that the desks make, chosen by a number. */
const edits: ((history: History, n: number) => History)[] = [
  (h, n) => edit(h, 'Rename', (f) => void (f.name = `Name ${n}`)),
  (h, n) =>
    edit(
      h,
      'Move',
      (f) => void (f.sheets[0].parts[n % f.sheets[0].parts.length].box.x += n),
      `move ${n % 3}`,
    ),
  (h, n) =>
    edit(
      h,
      'Delete part',
      (f) => void (f.sheets[0].parts.length > 1 && f.sheets[0].parts.splice(n % f.sheets[0].parts.length, 1)),
    ),
  (h, n) =>
    edit(
      h,
      'Reorder layers',
      (f) => void f.maps[0].layers.unshift(...f.maps[0].layers.splice(n % f.maps[0].layers.length, 1)),
    ),
  (h, n) =>
    edit(h, 'Words', (f) => {
      const legend = f.sheets[0].parts.find((p) => p.type === 'legend')
      if (legend?.type === 'legend') legend.settings.words[`k${n % 4}`] = `w${n}`
    }),
  (h, n) =>
    edit(h, 'Mend', (f) => {
      const step = f.datasets[0].steps[0]
      if (step?.type === 'join') delete step.settings.mended[Object.keys(step.settings.mended)[n % 5]]
    }),
  (h) => seal(h),
]

describe('undo', () => {
  it('restores the document byte for byte, and redo the way forward', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(edits.length - 1), fc.nat(50)), { maxLength: 25 }), (steps) => {
        let history = startHistory(folio)
        for (const [kind, n] of steps) history = edits[kind](history, n)
        const end = folioToJson(history.folio)
        let back = history
        while (back.done.length) back = undo(back)
        expect(folioToJson(back.folio)).toBe(folioToJson(folio))
        while (back.undone.length) back = redo(back)
        expect(folioToJson(back.folio)).toBe(end)
      }),
      { numRuns: 60 },
    )
  })

  it('takes a run of merged edits back as one step; a sealed run is closed', () => {
    let history = startHistory(folio)
    for (const x of [1, 2, 3])
      history = edit(history, 'Move', (f) => void (f.sheets[0].parts[0].box.x = x), 'move a')
    expect(history.done).toHaveLength(1)
    history = edit(seal(history), 'Move', (f) => void (f.sheets[0].parts[0].box.x = 4), 'move a')
    expect(history.done).toHaveLength(2)
    expect(undo(history).folio.sheets[0].parts[0].box.x).toBe(3)
    expect(undo(undo(history)).folio).toEqual(folio)
  })

  it('keeps a drag of thousands of steps as short as one of them', () => {
    let history = startHistory(folio)
    const drag = (x: number) => (f: Draft<Folio>) => {
      f.sheets[0].parts[0].box.x = x
      f.sheets[0].parts[0].box.y = x / 2
    }
    for (let x = 1; x <= 5000; x++) history = edit(history, 'Move', drag(x), 'move a')
    expect(history.done).toHaveLength(1)
    expect(history.done[0].patches).toHaveLength(2)
    expect(history.done[0].inverse).toHaveLength(2)
    expect(undo(history).folio).toEqual(folio)
    expect(redo(undo(history)).folio.sheets[0].parts[0].box).toMatchObject({ x: 5000, y: 2500 })
  })

  it('keeps the order of edits where one lies inside the value of another', () => {
    let history = startHistory(folio)
    history = edit(history, 'Box', (f) => void (f.sheets[0].parts[0].box.x = 1), 'box')
    history = edit(
      history,
      'Box',
      (f) => void (f.sheets[0].parts[0].box = { x: 2, y: 2, width: 9, height: 9 }),
      'box',
    )
    history = edit(history, 'Box', (f) => void (f.sheets[0].parts[0].box.x = 3), 'box')
    expect(undo(history).folio).toEqual(folio)
    expect(redo(undo(history)).folio.sheets[0].parts[0].box).toEqual({ x: 3, y: 2, width: 9, height: 9 })
  })

  it('forgets what was undone once something else is done, and keeps nothing of an edit without effect', () => {
    const renamed = edit(startHistory(folio), 'Rename', (f) => void (f.name = 'Other'))
    expect(edit(undo(renamed), 'Rename', (f) => void (f.name = 'Third')).undone).toEqual([])
    expect(edit(renamed, 'Rename', (f) => void (f.name = 'Other'))).toBe(renamed)
    expect(undo(startHistory(folio)).folio).toBe(folio)
  })
})

describe('reading a stored folio', () => {
  const stored = JSON.parse(folioToJson(folio)) as Record<string, unknown>

  it('gives back what was written', () => {
    expect(readFolio(stored)).toEqual(folio)
    expect(folioToJson(readFolio(stored))).toBe(folioToJson(folio))
  })

  it('says where it is wrong', () => {
    expect(() => readFolio({ ...stored, version: 99 })).toThrow('made by a newer Keen Plot (format 99')
    expect(() => readFolio({ ...stored, name: '' })).toThrow('at name')
    expect(() =>
      readFolio({ ...stored, sheets: [{ ...folio.sheets[0], page: { widthMm: -4, heightMm: 10 } }] }),
    ).toThrow('at sheets › 0 › page › widthMm')
    expect(() => readFolio('a folio')).toThrow('at the top')
  })
})
