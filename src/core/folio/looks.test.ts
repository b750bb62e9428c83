import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { readLooks, writeLooks } from '@/formats/looks-file/looks-file'
import { inStyle } from '@/core/sheet/type-styles'
import { broughtWords, looksOf, mostKeptColours, withLooks, type Looks } from './looks'
import { paletteOf } from './palette'
import { Folio } from './schema'
import { emptyFolio } from './empty-folio'

const { folio } = openDemo()
const empty = emptyFolio('e', 'Empty')
const style = (id: string, name: string, sizePt: number) => ({
  id,
  name,
  style: inStyle('body', { sizePt, named: null }),
})
const nothing: Looks = { typeStyles: [], colours: [], ramps: [] }

describe('the looks of a folio', () => {
  it('come through a file as they were, and make the colours of another folio', () => {
    const looks = readLooks(writeLooks(looksOf(folio)), 'looks.json')
    expect(looks).toEqual(looksOf(folio))
    const { looks: now, brought } = withLooks(empty, looks)
    const made = Folio.parse({ ...empty, ...now })
    expect(made.typeStyles).toEqual(folio.typeStyles)
    expect(paletteOf(made)).toEqual(paletteOf(folio))
    expect(brought).toMatchObject({ added: 0, colours: paletteOf(folio).length, leftOut: 0 })
    expect(withLooks(made, looks).brought).toEqual({ changed: 0, added: 0, colours: 0, ramps: 0, leftOut: 0 })
  })

  it('change a style of the same id or else of the same name, whose id stays; others are added', () => {
    const own = { ...empty, typeStyles: [style('a', 'Title', 20), style('b', 'Body', 10)] }
    const { looks, brought } = withLooks(own, {
      ...nothing,
      typeStyles: [style('a', 'Heading', 30), style('x', 'Body', 11), style('y', 'Note', 7)],
    })
    expect(looks.typeStyles.map(({ id, name, style: { sizePt } }) => [id, name, sizePt])).toEqual([
      ['a', 'Heading', 30],
      ['b', 'Body', 11],
      ['y', 'Note', 7],
    ])
    expect(broughtWords(brought)).toBe('2 type styles were changed, 1 type style was added.')
  })

  it('say when old colours had to make way, and when nothing was new', () => {
    const many = Array.from({ length: 60 }, (_, i) => `#0000${(i + 16).toString(16).padStart(2, '0')}`)
    const own = { ...empty, palette: many }
    const { looks, brought } = withLooks(own, {
      ...nothing,
      colours: ['#ff0000', '#FF0000', '#ff0001', '#ff0002', '#ff0003', '#ff0004', '#ff0005'],
    })
    expect(looks.palette).toHaveLength(mostKeptColours)
    expect(looks.palette[0]).toBe('#ff0000')
    expect(broughtWords(brought)).toBe('6 colours were added, 2 older colours had to make way.')
    expect(broughtWords(withLooks(own, nothing).brought)).toBe('Nothing in it was new.')
  })

  it('are refused with words where the file is something else', () => {
    expect(() => readLooks('{', 'a.json')).toThrow('a.json is no file of type styles and colours: it is not')
    expect(() => readLooks('{"format":"keen-styles"}', 'a.json')).toThrow('that can be read')
    const wrong = JSON.stringify({
      format: 'keen-looks',
      version: 1,
      typeStyles: [],
      colours: ['red'],
      ramps: [],
    })
    expect(() => readLooks(wrong, 'a.json')).toThrow('colours › 0')
  })
})
