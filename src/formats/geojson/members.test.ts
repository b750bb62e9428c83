import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ImportError } from '../import-error'
import { readGeojson } from './read'
import { parseJson } from '../text'
import { membersOf } from './members'

const feature = (properties: unknown) => ({
  type: 'Feature',
  properties,
  geometry: { type: 'Point', coordinates: [1, 2] },
})

/** Words in which signs of JSON stand, as keys and values of a file may have them. */
const word = fc.oneof(
  fc.string(),
  fc.constantFrom('features', '"features":[', '\\', '\\"', ']}', '{"a":[', '\u2028', '\ud83d\ude00', ''),
)

describe('members of a feature collection', () => {
  it('come one by one as they come when all is parsed, whatever stands beside and in them', () => {
    fc.assert(
      fc.property(
        fc.dictionary(word, fc.oneof(word, fc.jsonValue() as fc.Arbitrary<unknown>)),
        fc.array(fc.dictionary(word, fc.jsonValue())),
        fc.boolean(),
        fc.constantFrom(undefined, 2, '\t'),
        (beside, rows, first, indent) => {
          const kept = Object.fromEntries(Object.entries(beside).filter(([key]) => key !== 'features'))
          const features = rows.map(feature)
          const whole = first
            ? { features, ...kept, type: 'FeatureCollection' }
            : { ...kept, type: 'FeatureCollection', features }
          const text = JSON.stringify(whole, null, indent)
          const found = membersOf(text, 'a.geojson', false)
          const parsed = parseJson(text, 'a.geojson') as { features: unknown[] }
          expect([...found.each()]).toEqual(parsed.features)
          expect(found.count).toBe(features.length)
          expect(found.head).toEqual({ ...JSON.parse(text), features: [] })
        },
      ),
    )
  })

  it('that are broken anywhere are refused with the line, as when all is parsed', () => {
    const text = JSON.stringify(
      { type: 'FeatureCollection', features: [feature({ a: '"]' }), feature({ b: [1, { c: 2 }] })] },
      null,
      1,
    )
    const read = (broken: string): string => {
      try {
        readGeojson(new TextEncoder().encode(broken), 'a.geojson', {})
        return 'read'
      } catch (error) {
        expect(error).toBeInstanceOf(ImportError)
        return (error as Error).message
      }
    }
    expect(read(text)).toBe('read')
    for (let cut = 1; cut < text.length; cut++) {
      const broken = text.slice(0, cut)
      const line = broken.split('\n').length
      expect(Number(/breaks at line (\d+)/.exec(read(broken))?.[1])).toBe(line)
    }
    for (let at = 0; at < text.length; at++) {
      // A sign too much makes it no JSON, or it stands in a word.
      const broken = `${text.slice(0, at)},${text.slice(at)}`
      let valid = true
      try {
        JSON.parse(broken)
      } catch {
        valid = false
      }
      if (!valid) expect(read(broken)).toMatch(/breaks at line/)
    }
  })

  it('are the last list where a file has two, and one where it is a feature or a shape alone', () => {
    const twice = `{"type":"FeatureCollection","features":[],"features":[${JSON.stringify(feature({ a: 1 }))}]}`
    expect(membersOf(twice, 'a.geojson', false).count).toBe(1)
    expect(membersOf(JSON.stringify(feature(null)), 'a.geojson', false).count).toBe(1)
    expect(membersOf('{"type":"Point","coordinates":[1,2]}', 'a.geojson', false).count).toBe(1)
    expect(() => membersOf('{"type":"FeatureCollection","features":{}}', 'a.geojson', false)).toThrow(
      /no features/,
    )
  })
})
