import { formatNumber } from '@/core/classify/labels'
import { methodOf } from '@/core/classify/methods'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { classesOf } from '@/core/map/layer-plan'
import type { DrawnLayer } from '@/core/map/drawn'
import { datasetsUsed } from '@/core/map/uses'
import { entryOf, type ProjectionSpec } from '@/core/projection/catalogue'
import type { PanelView } from './part'

/** What the sheet can fill in by itself, with what it is called in menus. */
export const fillInWords = {
  date: 'Date',
  time: 'Time',
  credits: 'Credits',
  licences: 'Licences',
  scale: 'Scale',
  projection: 'Projection',
  author: 'Author',
  folio: 'Name of the folio',
  sheet: 'Name of the sheet',
  shown: 'What the map shows',
  where: 'Of what, and of when',
  page: 'Number of the page',
  pages: 'How many pages',
  classes: 'Number of classes',
  method: 'Method of classes',
  dated: 'Date of the source',
} as const

export type FillInName = keyof typeof fillInWords
export const fillInNames = Object.keys(fillInWords) as FillInName[]

/** Values come from outside, so that composing stays the same for the same input. */
export type FillIns = Record<FillInName, string>

const written = /\{\{\s*([a-z]+)\s*\}\}/g

/**
 * Replaces `{{name}}` (Mustache syntax). A name that is not known stays as it was typed, so that it is seen.
 */
export const fillIn = (text: string, values: Partial<FillIns>): string =>
  withoutEmptySentences(text, values).replace(
    written,
    (typed, name: string) => values[name as FillInName] ?? typed,
  )

/** A sentence that would say nothing, since all that is filled into it is empty, is left out: “Source: .” */
function withoutEmptySentences(text: string, values: Partial<FillIns>): string {
  if (!text.includes('{{')) return text
  return text
    .split(/(?<=\.)(?=\s)|(?<=\n)/)
    .filter((sentence) => {
      const names = [...sentence.matchAll(written)].map(([, name]) => name as FillInName)
      return (
        !names.length ||
        names.some((name) => values[name] !== '') ||
        !/[^\s{}]/.test(sentence.replace(written, ''))
      )
    })
    .join('')
    .replace(/^\s+/, (blank) => (/^\s/.test(text) ? blank : ''))
}

/** Fill-ins of a text that no sheet knows, as they were typed, and openings that are never closed. */
export function unknownFillIns(text: string): string[] {
  const unknown = [...text.matchAll(written)]
    .filter(([, name]) => !(name in fillInWords))
    .map(([typed]) => typed)
  const rest = text.replace(written, '')
  return [...unknown, ...(rest.match(/\{\{[^}]{0,40}\}{0,2}/g) ?? [])]
}

type Given = {
  sheetName: string
  folioName: string
  author: string
  date: Date
  /** Which page of the folio it is, from 1, and how many there are. */
  page: { number: number; of: number }
  datasets: Map<string, Prepared>
}

/** The values of all fill-ins of a sheet. What belongs to a map is that of the first panel. */
export function fillInValues(panels: PanelView[], given: Given): FillIns {
  const [main] = panels
  const entries = entriesSeen(panels, given.datasets)
  const layer = main?.layers.find(({ layer: { symbology } }) => kindOf(symbology.kind).thematic)
  return {
    date: given.date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }),
    time: given.date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }),
    credits: onceEach(entries.map(({ credit }) => credit)),
    licences: onceEach(entries.map(({ licence }) => licence)),
    scale: main ? `1 : ${formatNumber(main.view.scaleDenominator, 0)}` : '',
    projection: main ? projectionWords(main.map.projection) : '',
    author: given.author,
    folio: given.folioName,
    sheet: given.sheetName,
    ...wordsOfMap(layer, main, given.sheetName),
    page: String(given.page.number),
    pages: String(given.page.of),
    ...mapValues(layer),
  }
}

/** What the map shows, and of what: what the first thematic layer of the first panel is about. */
function wordsOfMap(
  shown: DrawnLayer | undefined,
  main: PanelView | undefined,
  sheetName: string,
): Pick<FillIns, 'shown' | 'where'> {
  if (!shown) return { shown: main?.map.name ?? sheetName, where: '' }
  const { layer, prepared } = shown
  const heading = classesOf(layer, prepared)?.heading ?? layer.name
  const { name, dated } = prepared.entry
  return { shown: heading, where: [name, dated].filter(Boolean).join(', ') }
}

const onceEach = (words: string[]): string => [...new Set(words.filter(Boolean))].join('; ')

/** What the first thematic layer of the first panel says of itself. */
function mapValues(shown: DrawnLayer | undefined): Pick<FillIns, 'classes' | 'method' | 'dated'> {
  if (!shown) return { classes: '', method: '', dated: '' }
  const { layer, prepared } = shown
  const classes = classesOf(layer, prepared)
  const [classing] = kindOf(layer.symbology.kind).classings(layer.symbology.settings)
  return {
    classes: classes && !classes.shadeOf ? String(classes.labels.length) : '',
    method: classing && classes ? methodOf(classes.result.method).label : '',
    dated: prepared.entry.dated,
  }
}

function projectionWords(spec: ProjectionSpec): string {
  const { label } = entryOf(spec)
  return spec.system ? `${label} (${spec.system.code})` : `${label} projection`
}

/** All datasets that the layers seen draw on, through all their steps, each once. */
function entriesSeen(panels: PanelView[], datasets: Map<string, Prepared>): DatasetEntry[] {
  const shown = panels.map(({ map, layers }) => ({ map, layers: layers.map(({ layer }) => layer) }))
  const used = datasetsUsed(shown, (id) => datasets.get(id)?.entry)
  return [...used].flatMap((id) => datasets.get(id)?.entry ?? [])
}
