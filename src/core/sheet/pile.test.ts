import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { plainShape } from './parts/shape'
import {
  grouped,
  groupsOver,
  lifted,
  membersOf,
  nodeId,
  pileTree,
  placedBeside,
  ungrouped,
  unitOf,
  unitsOf,
  withoutParts,
  type Pile,
} from './pile'
import { makePart } from './registry'

const part = (id: string) =>
  makePart('shape', { id, name: id, box: { x: 0, y: 0, width: 10, height: 10 } }, plainShape())
const pileOf = (...ids: string[]): Pile => ({ parts: ids.map(part), groups: [] })
const order = ({ parts }: Pile): string => parts.map(({ id }) => id).join('')

/** Parts of every group follow each other, and every group that is named is there. */
function isSound(pile: Pile): boolean {
  return pile.groups.every(({ id, parentId }) => {
    const places = pile.parts
      .map((one, i) => (membersOf(pile, id).includes(one) ? i : -1))
      .filter((i) => i >= 0)
    const together = places.length > 0 && places[places.length - 1] - places[0] === places.length - 1
    return together && (parentId === null || pile.groups.some((group) => group.id === parentId))
  })
}

describe('groups', () => {
  it('stand where their topmost part was, in the order of the pile', () => {
    const pile = grouped(pileOf('a', 'b', 'c', 'd', 'e'), ['a', 'd'], { id: 'g', name: 'G' })
    expect(order(pile)).toBe('bcade')
    expect(pile.parts.filter(({ groupId }) => groupId === 'g').map(({ id }) => id)).toEqual(['a', 'd'])
  })

  it('are nested, entered step by step, and taken apart', () => {
    const inner = grouped(pileOf('a', 'b', 'c', 'd'), ['a', 'b'], { id: 'in', name: 'In' })
    const pile = grouped(inner, ['a', 'b', 'c'], { id: 'out', name: 'Out' })
    const [a] = pile.parts.filter(({ id }) => id === 'a')
    expect(groupsOver(pile, a.groupId).map(({ id }) => id)).toEqual(['out', 'in'])
    expect(unitOf(pile, a, null)?.id).toBe('out')
    expect(unitOf(pile, a, 'out')?.id).toBe('in')
    expect(unitOf(pile, a, 'in')?.id).toBe('a')
    const [d] = pile.parts.filter(({ id }) => id === 'd')
    expect(unitOf(pile, d, 'out')).toBe(null)
    expect(unitsOf(pile, ['a', 'b', 'c', 'd']).map(({ id }) => id)).toEqual(['out', 'd'])
    const apart = ungrouped(pile, ['out'])
    expect(apart.groups.map(({ id, parentId }) => [id, parentId])).toEqual([['in', null]])
    expect(order(apart)).toBe('abcd')
  })

  it('that lie in each other in a circle do no harm', () => {
    const pile: Pile = {
      parts: [{ ...part('a'), groupId: 'x' }],
      groups: [
        { id: 'x', name: 'X', parentId: 'y' },
        { id: 'y', name: 'Y', parentId: 'x' },
      ],
    }
    expect(groupsOver(pile, 'x')).toHaveLength(2)
    expect(pileTree(pile)).toHaveLength(1)
  })

  it('are gone with their last part', () => {
    const pile = grouped(pileOf('a', 'b', 'c'), ['a', 'b'], { id: 'g', name: 'G' })
    expect(withoutParts(pile, ['a', 'b'])).toMatchObject({ parts: [{ id: 'c' }], groups: [] })
  })
})

describe('moving in the pile', () => {
  it('is by one step, to the end, and stays at the end', () => {
    const pile = pileOf('a', 'b', 'c', 'd')
    expect(order(lifted(pile, ['b'], 'up'))).toBe('acbd')
    expect(order(lifted(pile, ['b', 'c'], 'up'))).toBe('adbc')
    expect(order(lifted(pile, ['c', 'd'], 'up'))).toBe('abcd')
    expect(order(lifted(pile, ['a', 'c'], 'down'))).toBe('acbd')
    expect(order(lifted(pile, ['a', 'b'], 'top'))).toBe('cdab')
    expect(order(lifted(pile, ['d'], 'bottom'))).toBe('dabc')
  })

  it('steps over a group as a whole, and within a group stays in it', () => {
    const pile = grouped(pileOf('a', 'b', 'c', 'd'), ['b', 'c'], { id: 'g', name: 'G' })
    expect(order(lifted(pile, ['a'], 'up'))).toBe('bcad')
    expect(order(lifted(pile, ['b', 'c'], 'up'))).toBe('adbc')
    const within = lifted(pile, ['b'], 'up')
    expect(order(within)).toBe('acbd')
    expect(order(lifted(within, ['b'], 'up'))).toBe('acbd')
  })

  it('puts a part beside another one, into its group', () => {
    const pile = grouped(pileOf('a', 'b', 'c', 'd'), ['a', 'b'], { id: 'g', name: 'G' })
    const moved = placedBeside(pile, 'd', { besideId: 'a', above: true })
    expect(order(moved)).toBe('adbc')
    expect(moved.parts[1].groupId).toBe('g')
    expect(placedBeside(pile, 'g', { besideId: 'a', above: true })).toBe(pile)
  })

  it('never loses or doubles a part, and keeps groups together, whatever is done', () => {
    const ids = ['a', 'b', 'c', 'd', 'e', 'f']
    const some = fc.subarray(ids, { minLength: 1 })
    const step = fc.tuple(
      fc.nat(5),
      some,
      fc.constantFrom(...ids),
      fc.constantFrom('up' as const, 'down' as const, 'top' as const, 'bottom' as const),
    )
    fc.assert(
      fc.property(fc.array(step, { maxLength: 14 }), (steps) => {
        let pile = pileOf(...ids)
        steps.forEach(([what, chosen, one, by], n) => {
          if (what <= 1) pile = grouped(pile, chosen, { id: `g${n}`, name: `G${n}` })
          else if (what === 2)
            pile = ungrouped(
              pile,
              pile.groups.slice(0, 1).map(({ id }) => id),
            )
          else if (what === 3) pile = lifted(pile, chosen, by)
          else pile = placedBeside(pile, one, { besideId: chosen[0], above: n % 2 === 0 })
          expect(pile.parts.map(({ id }) => id).sort()).toEqual(ids)
          expect(isSound(pile)).toBe(true)
        })
        expect(pileTree(pile).map(nodeId).length).toBeLessThanOrEqual(ids.length)
      }),
    )
  })
})
