import { describe, expect, it } from 'vitest'
import type { Layer, LayerGroup } from './spec'
import { moveBy, moveOnto, putIntoGroup, removeLayer } from './stack'

describe('the layer stack', () => {
  const stack = () => {
    const layers = ['a', 'b', 'c', 'd'].map(
      (id) => ({ id, groupId: id === 'b' || id === 'c' ? 'g' : null }) as Layer,
    )
    return { layers, groups: [{ id: 'g', name: 'G' } as LayerGroup] }
  }
  const written = ({ layers }: { layers: Layer[] }) =>
    layers.map(({ id, groupId }) => `${id}${groupId ?? ''}`).join(' ')
  it('moves a layer into a group, through it and out again, a step at a time', () => {
    const s = stack()
    const seen = Array.from({ length: 5 }, () => (moveBy(s, 'a', 1), written(s)))
    expect(seen).toEqual(['ag bg cg d', 'bg ag cg d', 'bg cg ag d', 'bg cg a d', 'bg cg d a'])
    moveBy(s, 'a', 1)
    expect(written(s)).toBe('bg cg d a')
  })
  it('puts a layer where another one stands, into its group', () => {
    const s = stack()
    moveOnto(s, 'd', 'b')
    expect(written(s)).toBe('a dg bg cg')
    moveOnto(s, 'b', 'a')
    expect(written(s)).toBe('b a dg cg')
  })
  it('forgets a group that has no layers left', () => {
    const s = stack()
    putIntoGroup(s, 'b', null)
    expect(written(s)).toBe('a cg b d')
    removeLayer(s, 'c')
    expect(s.groups).toEqual([])
    const t = stack()
    putIntoGroup(t, 'a', 'g')
    expect(written(t)).toBe('bg cg ag d')
  })
})
