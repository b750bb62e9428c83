import { group } from '@/core/scene/scene'
import { firstColours } from '../../figures/first-colours'
import { toLocal } from '../../frame'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartType } from '../../part'
import { placeOnPage } from '../../place-on-page'
import { lineStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { worthShowing } from '../table'
import { amountsOf, layOutAmount, leaderTo } from './draw'
import { AmountSettings } from './spec'

export { AmountSettings } from './spec'

/** A new amount is about so large, mm². */
const firstMm2 = 500

/** What one number comes to, as an area that can be compared with others on the sheet. */
export const amountPart: PartType<AmountSettings> = {
  label: 'Amount',
  group: 'words',
  settings: AmountSettings,
  resize: 'none',
  keepsLabelsOff: true,
  styles: ['label'],
  measure(settings, box, context) {
    const { width, height } = layOutAmount(settings, box, context)
    return { width, height }
  },
  compose(settings, box, context, part) {
    const { nodes, figure, width, height } = layOutAmount(settings, box, context)
    const { place } = settings
    const at = place?.line ? placeOnPage(place.panelId, place.place, context) : null
    const frame = { box: { ...box, width, height }, rotationDeg: part.rotationDeg }
    const line = at ? leaderTo(settings, figure, toLocal(frame, at)) : []
    return [...(line.length ? [group(`${part.name} line`, line)] : []), group(`${part.name} amount`, nodes)]
  },
  anchor: ({ place }) => place,
  leansOn: ({ datasetId, title, place }, _, context) => [
    context.datasets.get(datasetId)?.dataset ?? null,
    context.datasets.get(datasetId)?.entry ?? null,
    context.fill(title),
    ...((place?.line && placeOnPage(place.panelId, place.place, context)) || []),
  ],
  fonts: ({ label }) => [lineStyle(label).font],
  initial({ sheet, map, datasets }) {
    const given = worthShowing(map, datasets)
    if (!given) return null
    const { dataset, fieldMeta } = given.prepared
    const numbers = dataset.fields.filter(({ column }) => column.kind === 'number')
    const field = (numbers.find(({ key }) => fieldMeta(key).role === 'total') ?? numbers[0]).key
    const settings: AmountSettings = {
      datasetId: given.id,
      parts: [{ field, colour: firstColours[0] }],
      of: null,
      form: 'ring',
      perMm2: 1,
      hole: 0.6,
      widthMm: 10,
      lineColour: '#ffffff',
      lineMm: 0.2,
      title: fieldMeta(field).label,
      values: true,
      label: inStyle('caption'),
      place: null,
    }
    const { total } = amountsOf(settings, given.prepared)
    const perMm2 = Number((Math.max(1e-9, total) / firstMm2).toPrecision(2))
    const { x, y } = innerBox(sheet)
    return { box: { x: x + 10, y: y + 10, width: 30, height: 30 }, settings: { ...settings, perMm2 } }
  },
  refs: ({ datasetId, place }) => ({
    ...noRefs,
    datasets: [datasetId],
    parts: place?.panelId ? [place.panelId] : [],
  }),
  remap: (settings, ids) => ({
    ...settings,
    datasetId: renamed(ids.datasets, settings.datasetId),
    place: settings.place && {
      ...settings.place,
      panelId: settings.place.panelId && renamed(ids.parts, settings.place.panelId),
    },
  }),
}
