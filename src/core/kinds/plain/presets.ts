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
  fill: string | null,
  colour: string,
  widthPt: number,
  more: Partial<PlainSettings> & { dashed?: boolean } = {},
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
  look('land', 'Land', 'areas', '#f3efe4', '#b9b29f', 0.3),
  look('sea', 'Sea', 'areas', '#e2eaee', '#9db2bd', 0.3),
  look('lake', 'Lake', 'areas', '#dce8ee', '#7f9aa6', 0.35),
  look('wood', 'Wood', 'areas', '#dfe6d2', '#dfe6d2', 0),
  look('built-up', 'Built-up', 'areas', '#dcd5cd', '#b9aea2', 0.2),
  look('outline', 'Border only', 'areas', null, '#4d5b60', 0.55),
  look('coast', 'Coast', 'lines', null, '#4f6f80', 0.5),
  look('river', 'River', 'lines', null, '#8fb0bf', 0.5),
  look('canal', 'Canal', 'lines', null, '#8fb0bf', 0.6, { dashed: true }),
  look('main-road', 'Main road', 'lines', null, '#f0c987', 1.4, {
    casing: { colour: '#9a7a45', widthPt: 0.35 },
  }),
  look('road', 'Road', 'lines', null, '#a89a84', 0.6),
  look('railway', 'Railway', 'lines', null, '#ffffff', 0.7, {
    dashed: true,
    casing: { colour: '#55504a', widthPt: 0.3 },
  }),
  look('border', 'Border', 'lines', null, '#6b5d6e', 0.6, { dashed: true }),
  look('town', 'Town', 'points', '#1b1b1b', '#ffffff', 0.4, { dotPt: 2.6 }),
  look('seat', 'Seat', 'points', '#ffffff', '#1b1b1b', 0.9, { dotPt: 4 }),
  look('village', 'Village', 'points', '#ffffff', '#1b1b1b', 0.4, { dotPt: 2 }),
  look('station', 'Station', 'points', '#ffffff', '#1b1b1b', 0.5, { dotPt: 3, dotShape: 'square' }),
  look('summit', 'Summit', 'points', '#6a5a48', '#ffffff', 0.3, { dotPt: 4, dotShape: 'triangle' }),
]
