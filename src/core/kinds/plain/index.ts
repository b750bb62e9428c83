import { pointsToMm } from '@/core/scene/units'
import type { MapKind } from '../kind'
import { marksAt } from '../marks/places'
import { symbolReach } from '../marks/shapes'
import { drawPlain } from './draw'
import { plainLegend } from './legend'
import { plainSentence } from './sentence'
import { PlainSettings } from './spec'

export const plain: MapKind<PlainSettings, null> = {
  label: 'Plain',
  thematic: false,
  comparesAreas: false,
  fits: '',
  settings: PlainSettings,
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none',
  suggests: (data) => [
    {
      settings: plain.initial(data),
      shows: data.name,
      because: 'Plainly, as a ground for other layers.',
      fit: 0.15,
    },
  ],
  initial: ({ dataset }) => ({
    fill: { areas: '#e9e6df', points: '#1b1b1b', lines: null, none: null }[dataset.geometry.kind],
    stroke: { colour: '#7a7a7a', widthPt: dataset.geometry.kind === 'points' ? 0 : 0.5, dashed: false },
    casing: null,
    dotPt: 3,
    dotShape: 'circle',
  }),
  plan: () => null,
  shapes: null,
  marks: (_, { dotPt, dotShape }, context) =>
    context.dataset.geometry.kind === 'points'
      ? marksAt(
          Array.from({ length: context.dataset.rowCount }, (_, f) => f),
          context,
          () => symbolReach(dotShape, pointsToMm(dotPt), pointsToMm(dotPt) / 3),
        )
      : [],
  draw: drawPlain,
  legend: plainLegend,
  legendLines: null,
  sentence: plainSentence,
  classings: () => [],
  classification: () => null,
  needs: () => [],
  remap: (settings) => settings,
  shared: null,
  years: null,
  showField: null,
  read: () => null,
  fonts: () => [],
  chip: (_, { fill, stroke }) => [fill ?? stroke.colour],
  caution: () => null,
}
