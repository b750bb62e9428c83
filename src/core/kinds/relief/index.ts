import type { MapKind } from '../kind'
import { drawRelief } from './draw'
import { reliefLegend } from './legend'
import { cellMetres } from '@/core/data/raster-ground'
import { planRelief, roughness, type ReliefPlan } from './plan'
import { reliefSentence } from './sentence'
import { ReliefSettings } from './spec'
import { readyTints, stopsOf } from './tints'

/** The steepness that slopes come to in the mean, once heights are exaggerated. */
const aimedSlope = 0.22

/** The exaggeration with which a raster looks modelled: of the round ones below ten the nearest, or a whole number. */
function firstExaggeration(raster: NonNullable<Parameters<typeof cellMetres>[0]>): number {
  const { columns, rows, values } = raster
  const slope = roughness(values.subarray(0, columns * rows), columns) / cellMetres(raster)
  const wanted = Math.min(200, Math.max(0.1, aimedSlope / slope || 1))
  return wanted < 10 ? Math.round(2 * wanted) / 2 || 0.5 : Math.round(wanted)
}

/** Heights of an elevation model: light and shade, tints and mist. */
export const relief: MapKind<ReliefSettings, ReliefPlan> = {
  label: 'Relief',
  thematic: false,
  comparesAreas: false,
  fits: '',
  settings: ReliefSettings,
  accepts: ({ dataset }) => dataset.raster !== undefined,
  suggests(data) {
    const { raster } = data.dataset
    // Kinds of ground and pictures have no heights.
    if (!raster || raster.ofKinds || raster.bands > 2) return []
    const settings = relief.initial(data)
    return [
      {
        settings,
        shows: `${data.name} in light and shade`,
        because: 'One band of amounts reads as ground.',
        fit: 0.9,
      },
    ]
  },
  initial(data) {
    const { raster } = data.dataset
    const bare: ReliefSettings = { band: 0, unit: 'm', shading: null, tints: null, mist: null, water: null }
    const plan = planRelief(bare, data)
    if (!raster || !plan) return bare
    return {
      ...bare,
      shading: {
        azimuthDeg: 315,
        altitudeDeg: 45,
        lights: 'four',
        exaggeration: firstExaggeration(raster),
        softness: 0.1,
        broad: 0.3,
        reachKm: Number(((8 * plan.cellM) / 1000).toPrecision(1)),
        curve: 0,
        texture: 0,
        aspect: null,
        dark: { colour: '#20303c', strength: 0.8 },
        light: { colour: '#fffbe8', strength: 0.35 },
      },
      tints: { stops: stopsOf(readyTints.Parchment, plan.low, plan.high), stepped: false, inView: false },
    }
  },
  plan: planRelief,
  shapes: null,
  marks: () => [],
  draw: drawRelief,
  legend: reliefLegend,
  legendLines: null,
  sentence: reliefSentence,
  classings: () => [],
  classification: () => null,
  needs: ({ water }) => (water?.datasetId ? [water.datasetId] : []),
  remap: (settings) => settings,
  shared: null,
  years: null,
  showField: null,
  read: () => null,
  fonts: () => [],
  chip: (_, { tints, shading }) =>
    tints
      ? [...tints.stops].sort((a, b) => a.at - b.at).map(({ colour }) => colour)
      : [shading?.dark.colour ?? '#9a9a9a', '#ffffff'],
  caution: () => null,
}
