import { ImportError, type Imported } from './import-error'
import { limits } from './limits'

const tooMany = (): ImportError =>
  new ImportError(`There are more than ${limits.columns.toLocaleString('en-GB')} columns.`)

/** Counts the different names of columns while rows come. */
export class ColumnCount {
  private readonly names = new Set<string>()

  /** @throws ImportError where there are too many by now */
  add(properties: Record<string, unknown>): void {
    for (const name of Object.keys(properties)) this.names.add(name)
    if (this.names.size > limits.columns) throw tooMany()
  }
}

/** Names that mean something else to the language that this is written in. */
const taken = new Set(['__proto__'])

/** A dataset whose columns are within bounds and can all be called by their names; what had to be renamed is said. */
export function withSafeColumns(one: Imported): Imported {
  const { dataset, remarks = [] } = one
  if (dataset.fields.length > limits.columns) throw tooMany()
  const clash = dataset.fields.filter(({ key }) => taken.has(key))
  if (!clash.length) return one
  const names = new Set(dataset.fields.map(({ key }) => key))
  const said: string[] = []
  const fields = dataset.fields.map((field) => {
    if (!taken.has(field.key)) return field
    let key = field.key.replaceAll('_', '')
    while (names.has(key)) key += '_'
    names.add(key)
    said.push(`The column “${field.key}” is called “${key}” here.`)
    return { ...field, key }
  })
  return { ...one, dataset: { ...dataset, fields }, remarks: [...remarks, ...said] }
}
