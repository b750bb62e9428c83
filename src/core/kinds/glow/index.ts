import type { KindData, MapKind } from '../kind'
import { drawGlow } from './draw'
import { glowLegend } from './legend'
import { planGlow, type GlowPlan } from './plan'
import { glowSentence } from './sentence'
import { GlowSettings } from './spec'

/** Dense points as light on dark ground. */
export const glow: MapKind<GlowSettings, GlowPlan> = {
  label: 'Glow',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for light on dark ground',
  settings: GlowSettings,
  accepts: ({ dataset }) => dataset.geometry.kind === 'points',
  suggests: (data: KindData) =>
    data.dataset.rowCount < 1500
      ? []
      : [
          {
            settings: glow.initial(data),
            shows: `${data.name} as light`,
            because: 'Where points are dense, light adds up.',
            fit: 0.6,
          },
        ],
  initial: () => ({
    radiusMm: 1.2,
    field: null,
    strength: 0.25,
    edge: '#7a2e12',
    middle: '#f2a33a',
    core: '#fff7df',
  }),
  plan: planGlow,
  shapes: null,
  marks: () => [],
  draw: drawGlow,
  legend: glowLegend,
  legendLines: null,
  sentence: glowSentence,
  classings: () => [],
  classification: () => null,
  shared: null,
  years: null,
  showField: null,
  needs: () => [],
  remap: (settings, { dataset }) =>
    settings.field === null || dataset.fields.some(({ key }) => key === settings.field)
      ? settings
      : { ...settings, field: null },
  read: () => null,
  fonts: () => [],
  chip: (_, { edge, middle, core }) => [edge, middle, core],
  caution: () => null,
}
