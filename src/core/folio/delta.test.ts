import fc from 'fast-check'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { deltaOf, withDelta } from './delta'
import { folioToJson, type Folio } from './schema'

const { folio } = openDemo()
const edits: ((draft: Folio, n: number) => void)[] = [
  (f, n) => void (f.name = `Name ${n}`),
  (f, n) => void (f.sheets[n % f.sheets.length].parts[0].box.x += n + 1),
  (f, n) => void f.maps.splice(n % f.maps.length, 1),
  (f, n) => void f.maps.unshift(...f.maps.splice(n % Math.max(1, f.maps.length), 1)),
  (f, n) => void f.sheets[0].parts.push({ ...f.sheets[0].parts[0], id: `new ${n}` }),
  (f, n) => void (f.maps[0] && (f.maps[0].layers[0].opacity = (n % 10) / 10)),
  (f) => void f.sheets[0].parts.reverse(),
  (f) => void (f.maps[0] && (f.maps[0].graticule = null)),
]

describe('what has changed of a folio', () => {
  it('makes the newer one from the older, whatever was edited', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(edits.length - 1), fc.nat(40)), { maxLength: 8 }), (steps) => {
        const after = steps.reduce(
          (now, [kind, n]) => produce(now, (draft) => edits[kind](draft as Folio, n)),
          folio,
        )
        const delta = deltaOf(folio, after)
        const made = delta ? withDelta(folio, structuredClone(delta)) : folio
        expect(made).toEqual(after)
        expect(folioToJson(made as Folio)).toBe(folioToJson(after))
      }),
      { numRuns: 80 },
    )
  })

  it('is small when a part was moved, and leaves everything else the same object', () => {
    const after = produce(folio, (draft) => void (draft.sheets[0].parts[2].box.x += 3))
    const delta = deltaOf(folio, after)
    expect(JSON.stringify(delta).length).toBeLessThan(3000)
    const made = withDelta(folio, structuredClone(delta ?? { is: 'value', value: null })) as Folio
    expect(made.maps).toBe(folio.maps)
    expect(made.datasets).toBe(folio.datasets)
    expect(made.sheets[1]).toBe(folio.sheets[1])
    expect(made.sheets[0].parts[1]).toBe(folio.sheets[0].parts[1])
    expect(made.sheets[0].parts[2].settings).toBe(folio.sheets[0].parts[2].settings)
    expect(made.sheets[0].parts[2].box.x).toBe(folio.sheets[0].parts[2].box.x + 3)
  })

  it('is nothing for the same folio, and refuses another one', () => {
    expect(deltaOf(folio, folio)).toBe(null)
    expect(() => withDelta([], { is: 'object', keys: [], gone: [] })).toThrow(TypeError)
    expect(() => withDelta([1], { is: 'list', entries: [{ at: 4 }] })).toThrow(TypeError)
  })
})
