import { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { ImportError, type Imported } from '../import-error'
import { limits } from '../limits'
import { decodeText, nameFromFile, parseJson } from '../text'
import { cubeDataset, eachCell, type CubeCell, type Dimension } from './cube'

const Category = z.object({
  index: z.union([z.array(z.string()), z.record(z.string(), z.number())]).optional(),
  label: z.record(z.string(), z.string()).optional(),
  unit: z.record(z.string(), z.object({ label: z.string().optional() }).loose()).optional(),
})
const Cell = z.union([z.number(), z.string(), z.null()])
const Dataset = z.object({
  label: z.string().optional(),
  source: z.string().optional(),
  updated: z.string().optional(),
  id: z.array(z.string()),
  size: z.array(z.number().int().nonnegative()),
  dimension: z.record(z.string(), z.object({ label: z.string().optional(), category: Category })),
  value: z.union([z.array(Cell), z.record(z.string(), Cell)]),
  status: z.union([z.array(z.string().nullable()), z.record(z.string(), z.string()), z.string()]).optional(),
})

/**
 * Reads a JSON-stat 2.0 dataset, or every dataset of a collection that holds them, as long tables.
 * @throws ImportError
 */
export function readJsonStat(bytes: Uint8Array, fileName: string): Imported[] {
  const parsed = parseJson(decodeText(bytes), fileName) as Record<string, unknown>
  const items = (parsed.link as { item?: unknown[] } | undefined)?.item
  const datasets =
    parsed.class === 'collection' && Array.isArray(items)
      ? items.filter(
          (item) => (item as { class?: string }).class === 'dataset' && 'value' in (item as object),
        )
      : [parsed]
  if (!datasets.length)
    throw new ImportError(`${fileName} lists datasets that lie elsewhere; bring those in one by one.`)
  const elsewhere = Array.isArray(items) ? items.length - datasets.length : 0
  const remarks =
    parsed.class === 'collection' && elsewhere > 0
      ? [
          `${elsewhere} more ${elsewhere === 1 ? 'item' : 'items'} of the collection lie elsewhere and were left out.`,
        ]
      : []
  return datasets.map((one) => {
    const checked = Dataset.safeParse(one)
    if (!checked.success)
      throw new ImportError(
        `${fileName} is not JSON-stat as its version 2.0 has it: ${issueWords(checked.error)}.`,
      )
    return datasetOf(checked.data, fileName, remarks)
  })
}

function datasetOf(cube: z.infer<typeof Dataset>, fileName: string, more: string[]): Imported {
  const { id, size, dimension, value, status } = cube
  if (id.length !== size.length || id.some((side) => !dimension[side]))
    throw new ImportError(`${fileName} is damaged: its sides and their sizes do not fit together.`)
  const count = size.reduce((product, n) => product * n, 1)
  if (count > limits.rows)
    throw new ImportError(`${fileName} has more than ${limits.rows.toLocaleString('en-GB')} cells.`)
  const dimensions = id.map((side, d): Dimension => {
    const { label, category } = dimension[side]
    const codes = codesOf(category, size[d])
    if (codes.length !== size[d] || new Set(codes).size !== codes.length)
      throw new ImportError(
        `${fileName} is damaged: “${label || side}” has ${new Set(codes).size} categories, but its size is said to be ${size[d]}.`,
      )
    return { name: label || side, codes, labels: codes.map((code) => category.label?.[code] ?? code) }
  })
  checkPlaces(value, count, { what: 'values', fileName })
  if (typeof status === 'object') checkPlaces(status, count, { what: 'statuses', fileName })
  const at = <T>(list: T[] | Record<string, T> | undefined, i: number): T | null =>
    (Array.isArray(list) ? list[i] : list?.[String(i)]) ?? null
  const cells: CubeCell[] = []
  eachCell(size, (place, i) => {
    const flag = typeof status === 'string' ? status : at<string | null>(status as never, i)
    const cell = at(value as (number | string | null)[], i)
    // A cube is often sparse; cells of which nothing is known are no rows.
    if (cell !== null || flag) cells.push({ at: place, value: cell, flag })
  })
  const units = id.flatMap((side) =>
    Object.values(dimension[side].category.unit ?? {}).flatMap(({ label }) => label ?? []),
  )
  return cubeDataset(dimensions, cells, {
    name: cube.label || nameFromFile(fileName),
    fileName,
    remarks: [
      ...more,
      ...(cube.source ? [`Source: ${cube.source}.`] : []),
      ...(cube.updated ? [`Updated: ${cube.updated}.`] : []),
      ...(units.length ? [`Units: ${[...new Set(units)].join(', ')}.`] : []),
    ],
  })
}

/** @throws ImportError where a list is not as long as the cube, or a key is no place in it */
function checkPlaces(
  list: unknown[] | Record<string, unknown>,
  count: number,
  { what, fileName }: { what: string; fileName: string },
): void {
  if (Array.isArray(list)) {
    if (list.length !== count)
      throw new ImportError(
        `${fileName} is damaged: its sides make ${count} cells, but ${list.length} ${what} stand in it.`,
      )
    return
  }
  const strange = Object.keys(list).find((key) => !/^\d+$/.test(key) || Number(key) >= count)
  if (strange !== undefined)
    throw new ImportError(
      `${fileName} is damaged: its ${what} name the cell ‘${strange.slice(0, 40)}’, and cells are 0 to ${count - 1}.`,
    )
}

function codesOf({ index, label }: z.infer<typeof Category>, size: number): string[] {
  if (Array.isArray(index)) return index
  if (index)
    return Object.entries(index)
      .sort(([, a], [, b]) => a - b)
      .map(([code]) => code)
  // A side of one value needs no order.
  return size === 1 ? Object.keys(label ?? {}).slice(0, 1) : Object.keys(label ?? {})
}
