import type { MapKind } from '../kind'
import { drawPlain } from './draw'
import { plainLegend } from './legend'
import { planPlain, type PlainPlan } from './plan'
import { plainSentence } from './sentence'
import { PlainSettings } from './spec'

export const plain: MapKind<PlainSettings, PlainPlan> = {
  label: 'Plain',
  thematic: false,
  comparesAreas: false,
  fits: '',
  settings: PlainSettings,
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none',
  initial: ({ dataset }) => ({
    fill: dataset.geometry.kind === 'areas' ? '#e9e6df' : dataset.geometry.kind === 'points' ? '#1b1b1b' : null,
    stroke: { colour: '#7a7a7a', widthPt: dataset.geometry.kind === 'points' ? 0 : 0.5, dashed: false },
    dotPt: 3,
    label: null,
  }),
  plan: planPlain,
  draw: drawPlain,
  legend: plainLegend,
  sentence: plainSentence,
  classings: () => [],
  classification: () => null,
  needs: () => [],
  remap: (settings, { dataset }) => (settings.label && !dataset.fields.some(({ key }) => key === settings.label?.field) ? { ...settings, label: null } : settings),
  sharedKeys: [],
  showField: null,
  read: () => null,
  fonts: ({ label }) => (label ? [{ family: label.family, weight: 400, italic: false }] : []),
  chip: (_, { fill, stroke }) => [fill ?? stroke.colour],
  caution: () => null,
}
