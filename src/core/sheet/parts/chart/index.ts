import { firstColours } from '../../figures/first-colours'
import { colourLeaning } from '../../figures/row-colours'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartType } from '../../part'
import { lineStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { worthShowing } from '../table'
import { chartGroup, drawChart } from './draw'
import { ChartSettings } from './spec'

export { ChartSettings } from './spec'

/** Figures of a dataset drawn as vectors, in the colours of the map on wish. */
export const chart: PartType<ChartSettings> = {
  label: 'Chart',
  group: 'words',
  settings: ChartSettings,
  resize: 'free',
  keepsLabelsOff: true,
  styles: ['heading', 'label'],
  measure: (_, { width, height }) => ({ width, height }),
  compose: (settings, box, context, { name }) => [chartGroup(name, drawChart(settings, box, context))],
  leansOn: ({ datasetId, source, title }, _, context) => [
    context.datasets.get(datasetId)?.dataset ?? null,
    context.datasets.get(datasetId)?.entry ?? null,
    context.fill(title),
    ...colourLeaning(context, source),
  ],
  fonts: ({ heading, label }) => [lineStyle(heading).font, lineStyle(label).font],
  initial({ sheet, map, datasets }) {
    const given = worthShowing(map, datasets)
    if (!given) return null
    const { dataset, fieldMeta } = given.prepared
    const figures = dataset.fields.filter(
      ({ key, column }) => column.kind === 'number' && !['code', 'date'].includes(fieldMeta(key).role),
    )
    const named = dataset.fields.find(({ key }) => fieldMeta(key).role === 'name') ?? dataset.fields[0]
    const { x, y } = innerBox(sheet)
    return {
      box: { x: x + 10, y: y + 10, width: 80, height: 55 },
      settings: {
        form: 'bars',
        datasetId: given.id,
        nameField: named.key,
        fields: figures.slice(0, 1).map(({ key }) => key),
        sortBy: figures[0]?.key ?? null,
        descending: true,
        rows: 10,
        colours: firstColours,
        source: null,
        values: true,
        gridlines: false,
        title: '',
        heading: inStyle('legend-heading'),
        label: inStyle('caption'),
      },
    }
  },
  refs: ({ datasetId, source }) => ({
    ...noRefs,
    datasets: [datasetId],
    parts: source?.panelId ? [source.panelId] : [],
  }),
  remap: (settings, ids) => ({
    ...settings,
    datasetId: renamed(ids.datasets, settings.datasetId),
    source: settings.source && {
      ...settings.source,
      panelId: settings.source.panelId && renamed(ids.parts, settings.source.panelId),
    },
  }),
}
