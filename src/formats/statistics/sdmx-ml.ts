import { columnFromCells, textColumn } from '@/core/data/column'
import type { Field } from '@/core/data/dataset'
import { ImportError, type Imported } from '../import-error'
import { limits } from '../limits'
import { nameFromFile } from '../text'
import { readXml } from '../xml/sax'

/** What is known of observations: names of dimensions and attributes with their codes. */
type Said = Record<string, string>
type Observation = { said: Said; value: string | null }

/** Attributes of elements that say how the document is made, not what the data are. */
const ofDocument =
  /^(xmlns|xsi:|.*:(structureRef|setID|action|dataScope|type|schemaLocation)$|structureRef$|action$|setID$)/

/**
 * Reads the data of an SDMX-ML message, generic or structure-specific (SDMX 2.1, part 3A; compact data of 2.0 as well),
 * with series or without, as a long table: a field for each dimension and attribute by its identifier, and the values.
 * What is said of groups is said of all their series.
 * @throws ImportError
 */
export function readSdmxMl(bytes: Uint8Array, fileName: string): Imported[] {
  const { observations, title, isData } = observationsIn(bytes, fileName)
  if (!isData)
    throw new ImportError(
      `${fileName} is XML, but no SDMX-ML with data. If it describes a structure only, bring in the file with the data.`,
    )
  if (!observations.length) throw new ImportError(`${fileName} holds no observations.`)
  const names = [...new Set(observations.flatMap(({ said }) => Object.keys(said)))]
  const fields: Field[] = names.map((name) => ({
    key: name,
    column: textColumn(observations.map(({ said }) => said[name] ?? null)),
  }))
  const value = names.includes('value') ? 'observed value' : 'value'
  fields.push({ key: value, column: columnFromCells(observations.map((one) => one.value)) })
  const power = [...new Set(observations.map(({ said }) => said.UNIT_MULT ?? '0'))]
  return [
    {
      name: title || nameFromFile(fileName),
      dataset: { rowCount: observations.length, fields, geometry: { kind: 'none' } },
      guessed: {},
      notes: [],
      remarks:
        power.length === 1 && power[0] !== '0'
          ? [`Values are in units of 10 to the power of ${power[0]} (UNIT_MULT), and were left as they are.`]
          : [],
    },
  ]
}

type Found = { observations: Observation[]; title: string; isData: boolean }

function observationsIn(bytes: Uint8Array, fileName: string): Found {
  const found: Found = { observations: [], title: '', isData: false }
  const groups: Said[] = []
  let [group, series, own] = [null as Said | null, null as Said | null, null as Said | null]
  let [value, text, inHeader] = [null as string | null, '', false]
  // Where a generic `Value` belongs to: the innermost open list.
  const target = (): Said | null => own ?? series ?? group
  const openers: Record<string, (attributes: Record<string, string>) => void> = {
    Header: () => (inHeader = true),
    DataSet: () => (found.isData = true),
    Group: (attributes) => (group = plainOf(attributes)),
    Series: (attributes) => (series = plainOf(attributes)),
    Obs(attributes) {
      own = plainOf(attributes)
      value = own.OBS_VALUE ?? null
      delete own.OBS_VALUE
    },
    Value(attributes) {
      const into = target()
      const name = attributes.id ?? attributes.concept
      if (into && name !== undefined && attributes.value !== undefined) into[name] = attributes.value
    },
    ObsDimension(attributes) {
      if (own) own[attributes.id ?? 'TIME_PERIOD'] = attributes.value
    },
    ObsValue: (attributes) => (value = attributes.value ?? null),
  }
  const closers: Record<string, () => void> = {
    Header: () => (inHeader = false),
    Name() {
      if (inHeader && !found.title) found.title = text.trim()
    },
    Time() {
      if (own) own.TIME_PERIOD = text.trim()
    },
    Group() {
      if (group) groups.push(group)
      group = null
    },
    Series: () => (series = null),
    Obs() {
      if (found.observations.length >= limits.rows)
        throw new ImportError(`${fileName} holds more than ${limits.rows.toLocaleString('en-GB')} values.`)
      found.observations.push({ said: { ...series, ...own }, value: value === 'NaN' ? null : value })
      own = null
    },
  }
  readXml(bytes, fileName, {
    open(name, attributes) {
      text = ''
      if (!inHeader || name === 'Header') openers[name]?.(attributes)
    },
    close: (name) => closers[name]?.(),
    text: (piece) => {
      if (text.length < 1000) text += piece
    },
  })
  for (const { said } of found.observations) addGroups(said, groups)
  return found
}

/** The attributes of an element without those that belong to the document. */
const plainOf = (attributes: Record<string, string>): Said =>
  Object.fromEntries(Object.entries(attributes).filter(([name]) => !ofDocument.test(name)))

/** A group says something of all observations that have its dimensions: what these do not say themselves. */
function addGroups(said: Said, groups: Said[]): void {
  for (const group of groups) {
    const shared = Object.keys(group).filter((name) => name in said)
    if (!shared.length || shared.some((name) => said[name] !== group[name])) continue
    for (const [name, words] of Object.entries(group)) said[name] ??= words
  }
}
