import { methods } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import { colouringLabel } from '@/core/colour/colouring'
import type { KindData, SentencePart } from '../kind'
import { formWords, surfaceKind } from '../surfaces/kind'
import { plainSurfaceLook } from '../surfaces/look'
import { lowerFirst, numberFields, worthShading } from '../values'
import { interpolatedSource, mostForSpline, samplesOf } from './source'
import { InterpolatedSettings, type Interpolation } from './spec'

export const interpolationLabels: Record<Interpolation, string> = {
  'inverse-distance': 'inverse distance',
  'natural-neighbours': 'natural neighbours',
  'thin-plate': 'a thin-plate spline',
  kriging: 'kriging',
  pycnophylactic: 'smoothing that keeps each area’s figure',
}

/** A surface through values at points, or over areas. */
export const interpolated = surfaceKind<InterpolatedSettings>({
  label: 'Surface',
  fits: 'Fit for what varies smoothly from place to place',
  settings: InterpolatedSettings,
  source: interpolatedSource,
  accepts: (data) =>
    (data.dataset.geometry.kind === 'points' || data.dataset.geometry.kind === 'areas') &&
    data.dataset.rowCount > 2 &&
    numberFields(data).length > 0,
  initial: (data) => ({
    ...plainSurfaceLook(),
    field: worthShading(data)[0] ?? '',
    way: data.dataset.geometry.kind === 'areas' ? 'pycnophylactic' : 'natural-neighbours',
    power: 2,
    nearest: 16,
    smoothing: 0,
    model: 'spherical',
    variogram: null,
    showError: false,
    cellKm: null,
    mask: null,
  }),
  sentence: surfaceSentence,
  remap: (settings, data) => {
    const areas = data.dataset.geometry.kind === 'areas'
    const kept = data.dataset.fields.some(({ key }) => key === settings.field)
    const way = areas === (settings.way === 'pycnophylactic') ? settings.way : null
    return {
      ...settings,
      field: kept ? settings.field : (worthShading(data)[0] ?? ''),
      way: way ?? (areas ? 'pycnophylactic' : 'natural-neighbours'),
      variogram: kept ? settings.variogram : null,
    }
  },
  showField: (settings, field) => ({ ...settings, field, variogram: null }),
  caution(plan, settings, data) {
    const { role, label } = data.fieldMeta(settings.field)
    if (!plan.classification && settings.way === 'thin-plate')
      return {
        words: `A spline takes 3 to ${mostForSpline.toLocaleString('en-GB')} points that do not lie on one line; there are ${(samplesOf(settings, data)?.samples.values.length ?? 0).toLocaleString('en-GB')}.`,
        remedies: [{ label: 'natural neighbours', settings: { ...settings, way: 'natural-neighbours' } }],
      }
    if (settings.way !== 'pycnophylactic' && role === 'total')
      return {
        words: `“${label}” counts something at each place: between places it has no value. A density adds it up.`,
        remedies: [],
      }
    return null
  },
})

/** “Income in districts as a smooth surface that keeps each area’s figure, in six classes …” */
function surfaceSentence(settings: InterpolatedSettings, data: KindData): SentencePart[] {
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  const keeps = settings.way === 'pycnophylactic'
  return [
    { text: settings.showError && settings.way === 'kriging' ? 'Standard error of ' : 'Surface of ' },
    { text: lowerFirst(data.fieldMeta(settings.field).label), control: 'field' },
    { text: keeps ? ' that keeps the figures of ' : ' at ' },
    { text: data.name.toLowerCase(), control: 'dataset' },
    ...(keeps
      ? []
      : [{ text: ' by ' }, { text: interpolationLabels[settings.way], control: 'size' as const }]),
    { text: ', ' },
    ...formWords(settings, numberWord(count), ''),
    ...(settings.form === 'bands'
      ? [{ text: methods[settings.method].label, control: 'method' as const }]
      : []),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}
