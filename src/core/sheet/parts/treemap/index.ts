import { group } from '@/core/scene/scene'
import { firstColours } from '../../figures/first-colours'
import { innerBox } from '../../page'
import { treeOf } from '@/core/treemap/tree'
import { noRefs, renamed, type NewPart, type PartGiven, type PartType } from '../../part'
import { lineStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { worthShowing } from '../table'
import { drawTreemap } from './draw'
import { treemapLegend } from './legend'
import { TreemapSettings } from './spec'
import { firstStrip } from './strip'

export { TreemapSettings } from './spec'

/** A whole with its parts as tiles, whose areas are their values to the last decimal. */
export const treemapPart: PartType<TreemapSettings> = {
  label: 'Treemap',
  group: 'words',
  settings: TreemapSettings,
  resize: 'free',
  keepsLabelsOff: true,
  styles: ['heading', 'label'],
  measure: (_, { width, height }) => ({ width, height }),
  compose: (settings, box, context, { name }) => [
    group(`${name} treemap`, drawTreemap(settings, box, context)),
  ],
  leansOn: ({ datasetId, title }, _, context) => [
    context.datasets.get(datasetId)?.dataset ?? null,
    context.datasets.get(datasetId)?.entry ?? null,
    context.fill(title),
  ],
  explains: treemapLegend,
  fonts: ({ heading, label }) => [lineStyle(heading).font, lineStyle(label).font],
  initial: bySize,
  ready: {
    'Squares by size': bySize,
    'Slices as given, with sub-totals': asGiven,
  },
  refs: ({ datasetId }) => ({ ...noRefs, datasets: [datasetId] }),
  remap: (settings, ids) => ({ ...settings, datasetId: renamed(ids.datasets, settings.datasetId) }),
}

/** Squarish tiles, the largest first. */
function bySize({ sheet, map, datasets }: PartGiven): NewPart<TreemapSettings> | null {
  const given = worthShowing(map, datasets)
  if (!given) return null
  const { dataset, fieldMeta } = given.prepared
  const of = (role: string) => dataset.fields.find(({ key }) => fieldMeta(key).role === role)?.key
  const texts = dataset.fields.filter(({ column }) => column.kind === 'text')
  const numbers = dataset.fields.filter(({ column }) => column.kind === 'number')
  const value = of('total') ?? numbers[0].key
  const fields = [...new Set([of('category'), of('name') ?? texts[0].key])].flatMap((key) => key ?? [])
  const { x, y } = innerBox(sheet)
  return {
    box: { x: x + 10, y: y + 10, width: 100, height: 70 },
    settings: {
      datasetId: given.id,
      value,
      levels: fields.map((field, i) => ({
        field,
        order: 'size',
        names: [],
        lineMm: i === 0 && fields.length > 1 ? 0.8 : 0.25,
        heading: true,
      })),
      layout: 'squares',
      colourLevel: 0,
      colours: firstColours,
      shade: null,
      strip: null,
      lineColour: '#ffffff',
      values: true,
      title: '',
      heading: inStyle('legend-heading'),
      label: inStyle('caption'),
    },
  }
}

/** Slices in the order of the rows over a strip whose first sub-total takes the first two parts. */
function asGiven(given: PartGiven): NewPart<TreemapSettings> | null {
  const made = bySize(given)
  const prepared = made && given.datasets.get(made.settings.datasetId)
  if (!made || !prepared) return null
  const levels = made.settings.levels.map((level) => ({ ...level, order: 'given' as const }))
  const { whole } = treeOf(prepared.dataset, levels, made.settings.value)
  return { ...made, settings: { ...made.settings, levels, layout: 'slices', strip: firstStrip(whole) } }
}
