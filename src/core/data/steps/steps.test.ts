import { describe, expect, it } from 'vitest'
import { featureCount } from '@/core/geo/geometry'
import { type Dataset } from '../dataset'
import { carryOutSteps, createStageMemory, describeChains } from '../prepare'
import { PrepStep, stepKindOf, stepTypes } from './registry'
import { square, tableOf, entryOf, after, column, problemOf, towns } from './step-testing'

describe('long steps', () => {
  it('tell how far they are', () => {
    const heard: number[] = []
    const kind = stepKindOf('clip')
    const own = {
      datasetId: 'own',
      dataset: tableOf({ n: [1, 2, 3, 4] }, [square(0, 0), square(1, 0), square(2, 0), square(3, 0)]),
      origins: new Map(),
      made: new Map(),
    }
    kind.apply({ datasetId: 'other' }, own, () => own, {
      tell: (share) => heard.push(share),
      remark: () => undefined,
      note: () => undefined,
    })
    expect(heard).toEqual([0, 0.25, 0.5, 0.75])
  })
})

describe('every kind of step', () => {
  it('is carried out with its first settings or says why not, and leaves its source alone', () => {
    const own = tableOf({ code: ['A', 'B'], n: [1, 2] }, [square(0, 0), square(1, 0)])
    const frozen = JSON.stringify(own.fields.map((f) => [f.key, f.column]))
    const others = {
      table: tableOf({ code: ['A', 'B'], m: [5, 6] }),
      points: tableOf({ n: [1] }, [{ type: 'Point', coordinates: [0.5, 0.5] }]),
    }
    for (const type of stepTypes) {
      const prepared = after(own, [[type, {}]], others)
      expect(prepared.reports).toHaveLength(1)
      if (problemOf(prepared)) expect(problemOf(prepared), type).toMatch(/^[A-Z].*\.$/)
      expect(
        featureCount(prepared.dataset.geometry) === prepared.dataset.rowCount ||
          prepared.dataset.geometry.kind === 'none',
        type,
      ).toBe(true)
    }
    expect(JSON.stringify(own.fields.map((f) => [f.key, f.column]))).toBe(frozen)
  })

  it('is carried out again when something before it changes, and only then', () => {
    const contents: Record<string, Dataset> = { own: towns, t: tableOf({ name: ['Marby'], x: [1] }) }
    const step = PrepStep.parse({
      type: 'join',
      id: 'j',
      on: true,
      settings: {
        datasetId: 't',
        keys: [{ key: 'name', otherKey: 'name' }],
        mended: {},
        several: 'first',
        figures: [],
      },
    })
    const memory = createStageMemory(2 ** 24)
    const run = (steps: PrepStep[], kept = memory) => {
      const entries = [entryOf('own', towns, [step]), entryOf('t', contents.t, steps)]
      return describeChains(
        entries,
        carryOutSteps(entries, (id) => contents[id] ?? null, { memory: kept }),
      ).get('own')
    }
    const first = run([])
    expect(run([])?.dataset).toBe(first?.dataset)
    // Too small for two stages, it makes them anew, and they are the same.
    const tiny = createStageMemory(1)
    const again = run([], tiny)?.dataset
    expect(run([], tiny)?.dataset).not.toBe(again)
    expect(again).toEqual(first?.dataset)
    const changed = run([
      PrepStep.parse({
        type: 'derive',
        id: 'd',
        on: true,
        settings: {
          recipe: 'formula',
          label: 'Double',
          unit: '',
          formula: 'x * 2',
          field: '',
          other: '',
          perCount: 1,
          ranges: [],
        },
      }),
    ])
    expect(changed && column(changed, 'double')).toEqual([2, null, null, null])
  })
})
