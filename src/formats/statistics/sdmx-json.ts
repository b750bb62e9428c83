import { z } from 'zod'
import { issueWords } from '@/core/said/issue-words'
import { ImportError, type Imported } from '../import-error'
import { decodeText, nameFromFile, parseJson } from '../text'
import { cubeDataset, type CubeCell, type Dimension } from './cube'

const Name = z.union([z.string(), z.record(z.string(), z.string())])
const Component = z
  .object({
    id: z.string(),
    name: Name.optional(),
    values: z
      .array(z.object({ id: z.string().optional(), name: Name.optional() }).loose().nullable())
      .optional(),
  })
  .loose()
const Components = z
  .object({
    series: z.array(Component).optional(),
    observation: z.array(Component).optional(),
  })
  .loose()
const Structure = z
  .object({ name: Name.optional(), dimensions: Components, attributes: Components.optional() })
  .loose()
const Observations = z.record(
  z.string(),
  z.array(z.union([z.number(), z.string(), z.null(), z.array(z.unknown())])),
)
const Sets = z.array(
  z
    .object({
      series: z.record(z.string(), z.object({ observations: Observations }).loose()).optional(),
      observations: Observations.optional(),
    })
    .loose(),
)

/**
 * Reads the data of an SDMX-JSON message (versions 1.0 and 2.0), with series or without, as a long table.
 * @throws ImportError
 */
export function readSdmxJson(bytes: Uint8Array, fileName: string): Imported[] {
  const message = parseJson(decodeText(bytes), fileName) as Record<string, unknown>
  const body = (message.data ?? message) as Record<string, unknown>
  const structure = Structure.safeParse(body.structure ?? (body.structures as unknown[] | undefined)?.[0])
  const sets = Sets.safeParse(body.dataSets)
  if (!structure.success || !sets.success) {
    const { error } = structure.success ? (sets as z.ZodSafeParseError<unknown>) : structure
    throw new ImportError(`${fileName} is not SDMX-JSON with data: ${issueWords(error as z.ZodError)}.`)
  }
  const { dimensions, attributes } = structure.data
  const sides = [...(dimensions.series ?? []), ...(dimensions.observation ?? [])]
  const status = attributes?.observation?.findIndex(({ id }) => /STATUS|FLAG/i.test(id)) ?? -1
  const statusValues = attributes?.observation?.[status]?.values
  const cells: CubeCell[] = []
  const add = (key: string, cell: unknown[]) => {
    const at = key.split(':').map(Number)
    if (at.length !== sides.length || at.some((n, d) => !Number.isInteger(n) || !sides[d].values?.[n]))
      throw new ImportError(`${fileName} is damaged: the observation ${key} lies outside the table.`)
    const mark = status < 0 ? null : cell[1 + status]
    const said = typeof mark === 'number' ? statusValues?.[mark] : null
    const value = typeof cell[0] === 'number' || typeof cell[0] === 'string' ? cell[0] : null
    cells.push({ at, value: numberOf(value), flag: said?.id ?? (typeof mark === 'string' ? mark : null) })
  }
  for (const set of sets.data) {
    for (const [key, cell] of Object.entries(set.observations ?? {})) add(key, cell)
    for (const [series, { observations }] of Object.entries(set.series ?? {}))
      for (const [key, cell] of Object.entries(observations)) add(series ? `${series}:${key}` : key, cell)
  }
  return [
    cubeDataset(sides.map(dimensionOf), cells, {
      name: wordsOf(structure.data.name) || nameFromFile(fileName),
      fileName,
    }),
  ]
}

const numberOf = (value: number | string | null): number | string | null => {
  if (typeof value !== 'string' || value.trim() === '') return value === '' ? null : value
  return Number.isFinite(Number(value)) ? Number(value) : value
}

const wordsOf = (name: z.infer<typeof Name> | undefined): string =>
  typeof name === 'string' ? name : (name?.en ?? Object.values(name ?? {})[0] ?? '')

function dimensionOf({ id, name, values = [] }: z.infer<typeof Component>): Dimension {
  const codes = values.map((value) => value?.id ?? '')
  return {
    name: wordsOf(name) || id,
    codes,
    labels: values.map((value, i) => wordsOf(value?.name) || codes[i]),
  }
}
