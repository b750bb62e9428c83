import type { PlainSettings } from './spec'

export type Preset = {
  id: string
  label: string
  shape: 'areas' | 'lines' | 'points'
  settings: PlainSettings
}

const look = (
  id: string,
  label: string,
  shape: Preset['shape'],
  {
    fill,
    colour,
    widthPt,
    more = {},
  }: {
    fill: string | null
    colour: string
    widthPt: number
    more?: Partial<PlainSettings> & { dashed?: boolean }
  },
): Preset => {
  const { dashed = false, ...rest } = more
  return {
    id,
    label,
    shape,
    settings: {
      fill,
      stroke: { colour, widthPt, dashed },
      casing: null,
      dotPt: 3,
      dotShape: 'circle',
      ...rest,
    },
  }
}

/** Looks for base layers that go well with each other and beneath data. */
export const presets: Preset[] = [
  look('land', 'Land', 'areas', { fill: '#f3efe4', colour: '#b9b29f', widthPt: 0.3 }),
  look('sea', 'Sea', 'areas', { fill: '#e2eaee', colour: '#9db2bd', widthPt: 0.3 }),
  look('lake', 'Lake', 'areas', { fill: '#dce8ee', colour: '#7f9aa6', widthPt: 0.35 }),
  look('wood', 'Wood', 'areas', { fill: '#dfe6d2', colour: '#dfe6d2', widthPt: 0 }),
  look('built-up', 'Built-up', 'areas', { fill: '#dcd5cd', colour: '#b9aea2', widthPt: 0.2 }),
  look('outline', 'Border only', 'areas', { fill: null, colour: '#4d5b60', widthPt: 0.55 }),
  look('coast', 'Coast', 'lines', { fill: null, colour: '#4f6f80', widthPt: 0.5 }),
  look('river', 'River', 'lines', { fill: null, colour: '#8fb0bf', widthPt: 0.5 }),
  look('canal', 'Canal', 'lines', { fill: null, colour: '#8fb0bf', widthPt: 0.6, more: { dashed: true } }),
  look('main-road', 'Main road', 'lines', {
    fill: null,
    colour: '#f0c987',
    widthPt: 1.4,
    more: {
      casing: { colour: '#9a7a45', widthPt: 0.35 },
    },
  }),
  look('road', 'Road', 'lines', { fill: null, colour: '#a89a84', widthPt: 0.6 }),
  look('railway', 'Railway', 'lines', {
    fill: null,
    colour: '#ffffff',
    widthPt: 0.7,
    more: {
      dashed: true,
      casing: { colour: '#55504a', widthPt: 0.3 },
    },
  }),
  look('border', 'Border', 'lines', { fill: null, colour: '#6b5d6e', widthPt: 0.6, more: { dashed: true } }),
  look('town', 'Town', 'points', { fill: '#1b1b1b', colour: '#ffffff', widthPt: 0.4, more: { dotPt: 2.6 } }),
  look('seat', 'Seat', 'points', { fill: '#ffffff', colour: '#1b1b1b', widthPt: 0.9, more: { dotPt: 4 } }),
  look('village', 'Village', 'points', {
    fill: '#ffffff',
    colour: '#1b1b1b',
    widthPt: 0.4,
    more: { dotPt: 2 },
  }),
  look('station', 'Station', 'points', {
    fill: '#ffffff',
    colour: '#1b1b1b',
    widthPt: 0.5,
    more: { dotPt: 3, dotShape: 'square' },
  }),
  look('summit', 'Summit', 'points', {
    fill: '#6a5a48',
    colour: '#ffffff',
    widthPt: 0.3,
    more: { dotPt: 4, dotShape: 'triangle' },
  }),
]
