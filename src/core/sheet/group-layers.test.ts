import { describe, expect, it } from 'vitest'
import { group, type Node, type Scene } from '@/core/scene/scene'
import { inGroupLayers } from './group-layers'
import { makePart, type Part } from './registry'
import { plainText } from './parts/text'
import { inStyle } from './type-styles'

const part = (id: string, groupId: string | null, hidden = false): Part =>
  makePart(
    'text',
    { id, name: id, box: { x: 0, y: 0, width: 10, height: 5 }, groupId, hidden },
    plainText({ text: id, style: inStyle('body') }),
  )
const groups = [
  { id: 'outer', name: 'Outer', parentId: null },
  { id: 'inner', name: 'Inner', parentId: 'outer' },
]
const sceneOf = (parts: Part[]): Scene => ({
  widthMm: 100,
  heightMm: 100,
  background: null,
  title: '',
  author: '',
  children: parts.filter(({ hidden }) => !hidden).map(({ name }) => group(name, [], { layer: true })),
})
const shape = (nodes: Node[]): unknown[] =>
  nodes.map((node) =>
    node.type === 'group' && node.children.length
      ? [node.name, shape(node.children)]
      : node.type === 'group' && node.name,
  )

describe('layers of groups', () => {
  it('lie within each other as the groups do, in the order of the pile', () => {
    const parts = [
      part('a', null),
      part('b', 'outer'),
      part('c', 'inner'),
      part('d', 'inner'),
      part('e', 'outer'),
      part('f', null),
    ]
    const { children } = inGroupLayers(sceneOf(parts), { parts, groups })
    expect(shape(children)).toEqual(['a', ['Outer', ['b', ['Inner', ['c', 'd']], 'e']], 'f'])
  })

  it('leave out what is hidden, and groups of which nothing is seen', () => {
    const parts = [part('a', 'outer', true), part('b', null), part('c', 'inner')]
    const { children } = inGroupLayers(sceneOf(parts), { parts, groups })
    expect(shape(children)).toEqual(['b', ['Outer', [['Inner', ['c']]]]])
  })

  it('do not go round in circles, nor lose parts of a group that is gone', () => {
    const circle = [
      { id: 'x', name: 'X', parentId: 'y' },
      { id: 'y', name: 'Y', parentId: 'x' },
    ]
    const parts = [part('a', 'x'), part('b', 'gone')]
    const { children } = inGroupLayers(sceneOf(parts), { parts, groups: circle })
    expect(shape(children)).toEqual([['Y', [['X', ['a']]]], 'b'])
  })
})
