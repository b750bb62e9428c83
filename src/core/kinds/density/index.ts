import { numberWord } from '@/core/classify/labels'
import { methods } from '@/core/classify/classify'
import { colouringLabel } from '@/core/colour/colouring'
import { formatNumber } from '@/core/classify/labels'
import type { KindData, SentencePart } from '../kind'
import { plainSurfaceLook } from '../surfaces/look'
import { formWords, surfaceKind } from '../surfaces/kind'
import { lowerFirst } from '../values'
import { bandwidthOf, densitySource, proposedPerKm2 } from './source'
import { DensitySettings } from './spec'

const firstDensity = (data: KindData): DensitySettings => ({
  ...plainSurfaceLook(),
  weight: null,
  kernel: 'quartic',
  bandwidthKm: null,
  adaptive: false,
  cellKm: null,
  perKm2: proposedPerKm2(data, null),
})

/** How dense points are, smoothed over the ground. */
export const density = surfaceKind<DensitySettings>({
  label: 'Density',
  fits: 'Fit for where points gather',
  settings: DensitySettings,
  source: densitySource,
  worthFrom: 200,
  accepts: ({ dataset }) => dataset.geometry.kind === 'points' && dataset.rowCount > 1,
  suggests: (data) =>
    data.dataset.rowCount < 200
      ? []
      : [
          {
            settings: firstDensity(data),
            shows: `${data.name} per km²`,
            because: 'So many points show where they gather.',
            fit: 0.84,
          },
        ],
  initial: firstDensity,
  sentence: densitySentence,
  remap: (settings, data) => {
    const kept = data.dataset.fields.some(({ key }) => key === settings.weight)
    return kept || settings.weight === null
      ? settings
      : { ...settings, weight: null, perKm2: proposedPerKm2(data, null) }
  },
  showField: (settings, weight) => ({ ...settings, weight }),
  caution(_, { weight, ...settings }, { fieldMeta }) {
    const ratio = weight !== null && ['rate', 'share', 'index'].includes(fieldMeta(weight).role)
    return ratio
      ? {
          words: `“${fieldMeta(weight).label}” is a ratio: a density adds up numbers of something.`,
          remedies: [{ label: 'count points', settings: { ...settings, weight: null } }],
        }
      : null
  },
})

export const kernelWords: Record<DensitySettings['kernel'], string> = {
  quartic: 'quartic',
  gaussian: 'Gaussian',
  epanechnikov: 'Epanechnikov',
}

/** “Density of libraries within 20 km, quartic, in six classes by natural breaks, coloured Reed.” */
function densitySentence(settings: DensitySettings, data: KindData): SentencePart[] {
  const { name, fieldMeta } = data
  const km = bandwidthOf(settings, data)
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  return [
    { text: 'Density of ' },
    ...(settings.weight === null
      ? []
      : [
          { text: lowerFirst(fieldMeta(settings.weight).label), control: 'field' as const },
          { text: ' at ' },
        ]),
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' within ' },
    { text: `${formatNumber(km, km < 10 ? 1 : 0)} km`, control: 'size' },
    { text: `, ${kernelWords[settings.kernel]}, ` },
    ...formWords(settings, numberWord(count), ''),
    ...(settings.form === 'bands'
      ? [{ text: methods[settings.method].label, control: 'method' as const }]
      : []),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}
