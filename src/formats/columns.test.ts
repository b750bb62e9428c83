import { describe, expect, it } from 'vitest'
import { readFile } from './registry'
import { limits } from './limits'

const bytes = (text: string) => new TextEncoder().encode(text)
const point = (properties: string) =>
  `{"type":"Feature","properties":${properties},"geometry":{"type":"Point","coordinates":[1,2]}}`
const collection = (features: string[]) =>
  bytes(`{"type":"FeatureCollection","features":[${features.join(',')}]}`)

describe('columns', () => {
  it('of a file that has far too many are refused while it is read, one feature or many', async () => {
    const many = Array.from({ length: 300_000 }, (_, i) => `"p${i}":${i}`).join(',')
    const began = performance.now()
    await expect(readFile(collection([point(`{${many}}`)]), 'wide.geojson')).rejects.toThrow(
      /too many|more than/,
    )
    const each = Array.from({ length: limits.columns + 50 }, (_, i) => point(`{"p${i}":${i}}`))
    await expect(readFile(collection(each), 'each.geojson')).rejects.toThrow(/more than 16,384 columns/)
    const head = Array.from({ length: 20_000 }, (_, i) => `c${i}`).join(',')
    await expect(readFile(bytes(`${head}\n${head}\n`), 'wide.csv')).rejects.toThrow(/more than/)
    const topology = `{"type":"Topology","arcs":[],"objects":{"a":{"type":"GeometryCollection","geometries":[{"type":"Point","coordinates":[0,0],"properties":{${many}}}]}}}`
    await expect(readFile(bytes(topology), 'wide.topojson')).rejects.toThrow(/too many columns/)
    expect(performance.now() - began).toBeLessThan(20_000)
  })

  it('whose names mean something to a program keep their values', async () => {
    const names = ['__proto__', 'constructor', 'toString', 'hasOwnProperty', 'proto']
    const row = (n: number) => point(`{${names.map((name, i) => `"${name}":${n + i}`).join(',')}}`)
    const read = async (file: Uint8Array, name: string) => {
      const [{ dataset, remarks }] = (await readFile(file, name)).datasets
      return {
        values: Object.fromEntries(
          dataset.fields.map(({ key, column }) => [key, column.kind === 'number' ? [...column.values] : []]),
        ),
        remarks,
      }
    }
    const expected = {
      proto_: [10, 20],
      constructor: [11, 21],
      toString: [12, 22],
      hasOwnProperty: [13, 23],
      proto: [14, 24],
    }
    const json = await read(collection([row(10), row(20)]), 'a.geojson')
    expect(json.values).toEqual(expected)
    expect(json.remarks).toContain('The column “__proto__” is called “proto_” here.')
    const table = `${names.join(',')}\n10,11,12,13,14\n20,21,22,23,24\n`
    expect((await read(bytes(table), 'a.csv')).values).toEqual(expected)
    // A row that does not have them has nothing there, and not what every object has.
    const partly = await read(collection([row(10), point('{}')]), 'b.geojson')
    expect(partly.values.constructor).toEqual([11, NaN])
  })
})
