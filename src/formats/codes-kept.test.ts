import { describe, expect, it } from 'vitest'
import { columnFromCells, textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { exportFormatIds, savedAs } from './list'
import { readFile } from './registry'
import { writeDataset } from './writers/registry'

const lists = {
  'with leading zeros': ['007', '012', '900'],
  'with zeros and more figures than a number holds': ['00012345678901234567', '00099999999999999999', '1'],
  'whole numbers with more figures than a number holds': ['12345678901234567', '99999999999999999', '3'],
}

describe('codes', () => {
  for (const [name, codes] of Object.entries(lists))
    for (const format of exportFormatIds.filter((id) => id !== 'geotiff'))
      it(`${name} leave in ${savedAs(format).label} as they came, and come back so`, async () => {
        const { bytes } = await writeDataset(format, {
          dataset: {
            rowCount: 3,
            geometry: {
              kind: 'points',
              coords: Float64Array.of(-27, 48, -28, 49, -29, 50),
              featureStarts: Uint32Array.of(0, 1, 2, 3),
            },
            fields: [{ key: 'code', column: columnFromCells(codes) }],
          },
          name: 'codes',
          fieldMeta: (key) => ({ label: key, unit: '', role: 'code' }),
          fieldNames: 'short',
          crs: 'EPSG:4326',
        })
        const [{ dataset }] = (await readFile(bytes, `codes${savedAs(format).extension}`)).datasets
        const column = fieldOf(dataset, 'code')
        expect(codes.map((_, row) => column && textAt(column, row))).toEqual(codes)
      })
})
