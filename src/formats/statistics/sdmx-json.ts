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
      .array(
        z
          .object({ id: z.string().optional(), name: Name.optional(), value: z.unknown().optional() })
          .loose()
          .nullable(),
      )
      .optional(),
  })
  .loose()
const Components = z
  .object({
    dataSet: z.array(Component).optional(),
    dimensionGroup: z.array(Component).optional(),
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
      series: z
        .record(
          z.string(),
          z.object({ observations: Observations, attributes: z.array(z.unknown()).optional() }).loose(),
        )
        .optional(),
      attributes: z.array(z.unknown()).optional(),
      dimensionGroupAttributes: z.record(z.string(), z.array(z.unknown())).optional(),
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
  /** What is said of each cell beside its value, by the name of what is said. */
  const said: Map<string, string>[] = []
  const more = (
    list: unknown[] | undefined,
    components: Component[] | undefined,
    into: Map<string, string>,
  ) =>
    components?.forEach((component, i) => {
      const words = attributeWords(list?.[i], component)
      if (words !== null) into.set(wordsOf(component.name) || component.id, words)
    })
  const add = (key: string, cell: unknown[], around: Map<string, string>) => {
    const at = key.split(':').map(Number)
    if (at.length !== sides.length || at.some((n, d) => !Number.isInteger(n) || !sides[d].values?.[n]))
      throw new ImportError(`${fileName} is damaged: the observation ${key} lies outside the table.`)
    const mark = status < 0 ? null : cell[1 + status]
    const flag = typeof mark === 'number' ? statusValues?.[mark] : null
    const value = typeof cell[0] === 'number' || typeof cell[0] === 'string' ? cell[0] : null
    cells.push({ at, value: numberOf(value), flag: flag?.id ?? (typeof mark === 'string' ? mark : null) })
    const own = new Map(around)
    more(
      cell.slice(1).map((one, i) => (i === status ? null : one)),
      attributes?.observation,
      own,
    )
    said.push(own)
  }
  for (const set of sets.data) {
    const ofSet = new Map<string, string>()
    more(set.attributes, attributes?.dataSet, ofSet)
    for (const [key, cell] of Object.entries(set.observations ?? {}))
      add(key, cell, withGroups(ofSet, key, set.dimensionGroupAttributes))
    for (const [series, { observations, attributes: own }] of Object.entries(set.series ?? {})) {
      const ofSeries = withGroups(ofSet, series, set.dimensionGroupAttributes)
      more(own, attributes?.series, ofSeries)
      for (const [key, cell] of Object.entries(observations))
        add(series ? `${series}:${key}` : key, cell, ofSeries)
    }
  }
  /** What is said of groups: keys name some sides and leave others open. */
  function withGroups(
    around: Map<string, string>,
    key: string,
    groups: Record<string, unknown[]> | undefined,
  ): Map<string, string> {
    const out = new Map(around)
    const at = key.split(':')
    for (const [group, list] of Object.entries(groups ?? {})) {
      const fits = group.split(':').every((part, d) => part === '' || at[d] === undefined || part === at[d])
      if (fits) more(list, attributes?.dimensionGroup, out)
    }
    return out
  }
  const names = [...new Set(said.flatMap((one) => [...one.keys()]))]
  return [
    cubeDataset(sides.map(dimensionOf), cells, {
      name: wordsOf(structure.data.name) || nameFromFile(fileName),
      fileName,
      notes: names.map((name) => ({ name, of: (_, i) => said[i].get(name) ?? null })),
    }),
  ]
}

type Component = z.infer<typeof Component>

/** What an attribute says: the name of its value, or what stands for it; null where it says nothing. */
function attributeWords(mark: unknown, { values }: Component): string | null {
  if (mark === null || mark === undefined) return null
  if (typeof mark !== 'number' || !values?.length)
    return typeof mark === 'object' ? JSON.stringify(mark) : String(mark as string)
  const value = values[mark]
  return value ? valueWords(value) || null : null
}

const valueWords = (value: { id?: string; name?: z.infer<typeof Name>; value?: unknown }): string =>
  wordsOf(value.name) ||
  value.id ||
  (value.value === undefined || value.value === null ? '' : String(value.value as string))

const numberOf = (value: number | string | null): number | string | null => {
  if (typeof value !== 'string' || value.trim() === '') return value === '' ? null : value
  return Number.isFinite(Number(value)) ? Number(value) : value
}

const wordsOf = (name: z.infer<typeof Name> | undefined): string =>
  typeof name === 'string' ? name : (name?.en ?? Object.values(name ?? {})[0] ?? '')

function dimensionOf({ id, name, values = [] }: z.infer<typeof Component>): Dimension {
  // Periods of version 2.0 have a value in place of an identifier.
  const codes = values.map((value) => value?.id ?? (value ? valueWords(value) : ''))
  return {
    name: wordsOf(name) || id,
    codes,
    labels: values.map((value, i) => wordsOf(value?.name) || codes[i]),
  }
}
