import { open, stat } from 'node:fs/promises'
import { textAt } from '@/core/data/column'
import type { ReadOptions } from '@/core/data/reading'
import { readFile } from '@/formats/registry'

export type FirstRows = { keys: string[]; rows: (string | null)[][] }

const firstBytes = 200_000
const shownRows = 6

/**
 * The first rows of a table as it would be read with some options; null where that cannot be told from its
 * beginning.
 */
export async function firstRows({
  file,
  fileName,
  options,
  part,
}: {
  file: string
  fileName: string
  options: ReadOptions
  part: number
}): Promise<FirstRows | null> {
  const inRows = /\.(csv|tsv|txt)$/i.test(fileName)
  const { size } = await stat(file)
  if (!inRows && size > 20 * firstBytes) return null
  const handle = await open(file)
  const bytes = new Uint8Array(Math.min(size, inRows ? firstBytes : size))
  await handle.read(bytes).finally(() => handle.close())
  const whole = bytes.length === size ? bytes : bytes.subarray(0, bytes.lastIndexOf(10) + 1)
  const { datasets } = await readFile(whole, fileName, options, { mostRows: 200 })
  const { fields, rowCount } = (datasets[part] ?? datasets[0]).dataset
  return {
    keys: fields.map(({ key }) => key),
    rows: Array.from({ length: Math.min(rowCount, shownRows) }, (_, row) =>
      fields.map(({ column }) => textAt(column, row)),
    ),
  }
}
