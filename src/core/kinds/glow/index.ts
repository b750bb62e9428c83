import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Raster } from '@/core/scene/scene'
import type { MapKind } from '../kind'
import { lowerFirst } from '../values'
import { paperPlaces } from '../marks/places'
import { coloursOf, lightOf } from './light'
import { GlowSettings } from './spec'

/** Weights of the points, 1 on average; 0 for those without a value. */
export type GlowPlan = { weights: Float64Array }

/** A cell is never finer than print shows, and the picture never larger than this. */
const finestMm = 0.12
const mostCells = 6_000_000

/** Dense points as light on dark ground. */
export const glow: MapKind<GlowSettings, GlowPlan> = {
  label: 'Glow',
  thematic: true,
  comparesAreas: false,
  fits: 'Fit for light on dark ground',
  settings: GlowSettings,
  accepts: ({ dataset }) => dataset.geometry.kind === 'points',
  initial: () => ({
    radiusMm: 1.2,
    field: null,
    strength: 0.25,
    edge: '#7a2e12',
    middle: '#f2a33a',
    core: '#fff7df',
  }),
  plan({ field }, { dataset }) {
    const column = field === null ? null : fieldOf(dataset, field)
    const values = column && numbersOf(column)
    const present = values ? values.filter((value) => value > 0) : null
    const mean = present?.length ? present.reduce((a, b) => a + b, 0) / present.length : 1
    const weight = (value: number): number => (value > 0 ? value / mean : 0)
    return {
      weights: Float64Array.from({ length: dataset.rowCount }, (_, f) => (values ? weight(values[f]) : 1)),
    }
  },
  marks: () => [],
  draw({ weights }, { radiusMm, strength, edge, middle, core }, context) {
    const { window, toleranceMm } = context
    const cell = Math.max(
      finestMm,
      toleranceMm,
      radiusMm / 12,
      Math.sqrt((window.width * window.height) / mostCells),
    )
    const [columns, rows] = [
      Math.max(1, Math.ceil(window.width / cell)),
      Math.max(1, Math.ceil(window.height / cell)),
    ]
    const features = [...weights.keys()].filter((f) => weights[f] > 0)
    const points = paperPlaces(features, context).map(({ feature, x, y }) => ({
      x: (x - window.x) / cell,
      y: (y - window.y) / cell,
      weight: weights[feature],
    }))
    const rgba = coloursOf(lightOf(points, columns, rows, radiusMm / cell), strength, [edge, middle, core])
    const node: Raster = {
      type: 'raster',
      box: { x: window.x, y: window.y, width: columns * cell, height: rows * cell },
      columns,
      rows,
      rgba,
      smooth: true,
    }
    return [node]
  },
  legend: (_, { edge, middle, core }, { name }) => ({
    heading: '',
    items: [
      {
        key: 'glow',
        label: name,
        swatch: { shape: 'ramp', colours: [edge, middle, core], fill: null, stroke: null },
      },
    ],
  }),
  sentence: ({ field }, { name, fieldMeta }) => [
    { text: 'Let ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' glow' },
    { text: ' ' },
    { text: field === null ? 'alike' : `by ${lowerFirst(fieldMeta(field).label)}`, control: 'field' },
    { text: '.' },
  ],
  classings: () => [],
  classification: () => null,
  sharedKeys: [],
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
