import { parquetMetadataAsync } from 'hyparquet'
import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import { proposeMeta } from '@/core/data/field-meta'
import { readFile } from '../registry'
import { writeDataset } from '../writers/registry'
import { checkFooter, checkPages } from './check'

const column = numberColumn([1, 2, null, 4])
const { bytes } = await writeDataset('parquet', {
  dataset: { rowCount: 4, fields: [{ key: 'n', column }], geometry: { kind: 'none' } },
  name: 'numbers',
  fieldMeta: (key) => proposeMeta(key, column),
  fieldNames: 'short',
  crs: 'EPSG:4326',
})
const metadata = await parquetMetadataAsync(Uint8Array.from(bytes).buffer, {})
const pageAt = Number(metadata.row_groups[0].columns[0].meta_data?.data_page_offset)
const changed = (at: number, ...values: number[]): Uint8Array => {
  const copy = Uint8Array.from(bytes)
  copy.set(values, at)
  return copy
}
const footerLength = new DataView(bytes.buffer, bytes.byteOffset).getUint32(bytes.length - 8, true)
const footerAt = bytes.length - 8 - footerLength

describe('the frame of a Parquet file', () => {
  it('is passed when it is whole', () => {
    expect(() => checkFooter(bytes)).not.toThrow()
    expect(() => checkPages(bytes, metadata)).not.toThrow()
  })

  it('is refused where its footer claims more than there is', () => {
    expect(() => checkFooter(bytes.subarray(0, -1))).toThrow('no footer')
    expect(() => checkFooter(changed(bytes.length - 8, 255, 255, 255))).toThrow('longer than the file')
    // The second field of the footer is the list of its schema: a list of 2³¹ parts.
    const list = bytes.indexOf(0x19, footerAt) + 1
    expect(() => checkFooter(changed(list, 0xfc, 255, 255, 255, 255, 7))).toThrow('longer than what is there')
  })

  it('is refused where pages are not whole or do not add up, before anything is unpacked', async () => {
    const heads: [number, number[]][] = [
      // Ends at once; a size that can not be; more values than the column has.
      [pageAt, [0]],
      [pageAt + 3, [255, 255, 255, 255, 15]],
      [pageAt + 1, [3, 0x15, 0x80, 0x80]],
    ]
    for (const [at, values] of heads) {
      expect(() => checkPages(changed(at, ...values), metadata)).toThrow()
      await expect(readFile(changed(at, ...values), 'numbers.parquet')).rejects.toThrow('is damaged')
    }
    const [group] = metadata.row_groups
    const more = { ...metadata, num_rows: 5n, row_groups: [group] }
    expect(() => checkPages(bytes, more)).toThrow('do not add up')
    const [first] = group.columns
    const outside = {
      ...first,
      meta_data: first.meta_data && { ...first.meta_data, data_page_offset: 1n << 40n },
    }
    expect(() => checkPages(bytes, { ...metadata, row_groups: [{ ...group, columns: [outside] }] })).toThrow(
      'outside the file',
    )
  })
})
