import { describe, expect, it } from 'vitest'
import { square, tableOf, after, column, problemOf, towns } from './step-testing'

describe('derive', () => {
  const made = (settings: object, dataset = towns) =>
    column(after(dataset, [['derive', { label: 'New', ...settings }]]), 'new')
  it('computes the ready-made fields', () => {
    expect(made({ recipe: 'rate', field: 'loans', other: 'people', perCount: 100 })).toEqual([
      200,
      50,
      null,
      0,
    ])
    expect(made({ recipe: 'share', field: 'people' })?.map((v) => v && Number(Number(v).toFixed(4)))).toEqual(
      [18.1818, 72.7273, null, 9.0909],
    )
    expect(made({ recipe: 'change', field: 'loans', other: 'people' })).toEqual([10, -20, null, -5])
    expect(made({ recipe: 'percent change', field: 'loans', other: 'people' })).toEqual([
      100,
      -50,
      null,
      -100,
    ])
    expect(made({ recipe: 'rank', field: 'loans' })).toEqual([2, 2, 1, 4])
    expect(made({ recipe: 'index', field: 'loans' })?.map((v) => v && Math.round(Number(v)))).toEqual([
      114, 114, 171, 0,
    ])
    expect(
      made({
        recipe: 'ranges',
        field: 'people',
        ranges: [
          { under: 10, name: 'small' },
          { under: 30, name: 'middling' },
          { under: null, name: 'large' },
        ],
      }),
    ).toEqual(['middling', 'large', null, 'small'])
  })

  it('gives z-scores of mean 0 and deviation 1, and location quotients of 1 where shares are equal', () => {
    const z = made({ recipe: 'z-score', field: 'loans' })?.map(Number) ?? []
    expect(z.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 12)
    expect(z.reduce((a, b) => a + b * b, 0) / z.length).toBeCloseTo(1, 12)
    expect(
      made({ recipe: 'location quotient', field: 'a', other: 'b' }, tableOf({ a: [2, 4], b: [10, 20] })),
    ).toEqual([1, 1])
  })

  it('measures the ground: densities of one degree square differ by latitude as the ellipsoid does', () => {
    const cells = tableOf({ n: [100, 100] }, [square(0, 0), square(0, 59)])
    const km2 = made({ recipe: 'area' }, cells)?.map(Number) ?? []
    expect(km2[0]).toBeCloseTo(12308.8, 0)
    expect(made({ recipe: 'density', field: 'n' }, cells)?.map(Number)[1]).toBeCloseTo(100 / km2[1], 12)
    expect(problemOf(after(towns, [['derive', { recipe: 'density', field: 'people' }]]))).toBe(
      'Only areas have a density.',
    )
  })

  it('takes formulas of fields and refuses everything else', () => {
    expect(made({ recipe: 'formula', formula: 'round(loans / people * 10) / 10 + 1' })).toEqual([
      3,
      1.5,
      null,
      1,
    ])
    expect(made({ recipe: 'formula', formula: 'people > 20 ? 1 : 0' })).toEqual([0, 1, null, 0])
    const says = (formula: string) => problemOf(after(towns, [['derive', { recipe: 'formula', formula }]]))
    expect(says('loanz * 2')).toBe('There is no field “loanz”.')
    expect(says('import("x")')).toContain('There is no function “import”')
    expect(says('a = 5')).toContain('cannot stand in a formula')
    expect(says('f(x) = x')).toContain('cannot stand in a formula')
    expect(says('people.constructor')).toContain('cannot stand in a formula')
  })

  it('names, measures and places its field', () => {
    const prepared = after(towns, [
      [
        'derive',
        {
          recipe: 'rate',
          label: 'Loans per head',
          unit: 'loans per person',
          field: 'loans',
          other: 'people',
        },
      ],
    ])
    expect(prepared.fieldMeta('loans_per_head')).toEqual({
      label: 'Loans per head',
      unit: 'loans per person',
      role: 'rate',
    })
  })
})
