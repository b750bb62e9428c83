import type { ZodType } from 'zod'
import { classIndex } from '@/core/classify/classify'
import { classingShape, type Classing } from '@/core/classify/spec'
import { colouringShape } from '@/core/colour/colouring'
import { formatNumber } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { valueAt } from '@/core/grid/grid'
import { createProjection } from '@/core/projection/projection'
import { valueUnder } from '../cells-on-paper/under'
import type { Caution, KindData, MapKind, SentencePart, Suggestion } from '../kind'
import { drawSurface } from './draw'
import { numberStyle } from './isolines'
import { surfaceLegend } from './legend'
import type { SurfaceLook } from './look'
import { noPeaks } from './peaks'
import { isShown, mostLevels, planSurface, type SurfacePlan } from './plan'
import { lookKey, makeSurfaceShapes, type SurfaceShapes } from './shapes'
import { madeBy, readySurfaces } from './sharing'
import { surfaceOf, type SurfaceSource } from './surface'

/** What a kind that shows a surface has of its own. */
export type SurfaceKind<S extends SurfaceLook> = {
  label: string
  fits: string
  settings: ZodType<S>
  source: SurfaceSource<S>
  accepts: (data: KindData) => boolean
  worthFrom?: number
  initial: (data: KindData) => S
  suggests?: (data: KindData) => Suggestion<S>[]
  sentence: (settings: S, data: KindData) => SentencePart[]
  remap: (settings: S, data: KindData) => S
  showField: ((settings: S, field: string) => S) | null
  caution: (plan: SurfacePlan, settings: S, data: KindData) => Caution<S> | null
}

/**
 * A map kind that shows a surface: classes between lines, lines, a tint or lit lines, all of it the same whatever the
 * values come from.
 */
export function surfaceKind<S extends SurfaceLook>(
  own: SurfaceKind<S>,
): MapKind<S, SurfacePlan, SurfaceShapes> {
  const { source } = own
  const words = (settings: S, data: KindData) => ({
    heading: source.heading(settings, data),
    unit: source.unit(settings, data),
    doubt: source.doubt?.words ?? null,
  })
  return {
    label: own.label,
    thematic: true,
    comparesAreas: true,
    fits: own.fits,
    settings: own.settings,
    accepts: own.accepts,
    worthFrom: own.worthFrom,
    initial: own.initial,
    ...(own.suggests && { suggests: own.suggests }),
    plan: (settings, data) => planSurface(source, settings, data),
    shapes: {
      key: (settings) => `${source.key(settings)} ${lookKey(settings)}`,
      remark: () => '',
      make: (plan, settings, data) => makeSurfaceShapes(source, plan, settings, data),
      ready: (settings, data) => readySurfaces(source, settings, data),
      rows: null,
      figures: null,
      onPaper: false,
      bend: null,
      rough: source.rough,
      at(_, place, { plan, settings, data }) {
        const value = valueOf(source, place, settings, data)
        if (!isShown(value, plan.least)) return null
        const { breaks = [], counts = [] } = plan.classification ?? {}
        const written = writeNumber(value, settings.numbers, plan.decimals + 1)
        return {
          feature: -1,
          name: source.heading(settings, data),
          reading: {
            value: `${written} ${source.unit(settings, data)}`.trim(),
            detail: `class ${classIndex(breaks, value, settings.inclusive) + 1} of ${counts.length}`,
          },
        }
      },
      outlined: null,
      named: {
        blank: ({ peaks }) => (peaks ? noPeaks : null),
        of: ({ peaks }) => peaks,
        reachMm: ({ peaks }) => (peaks?.markMm ?? 0) / 2,
      },
    },
    marks: () => [],
    draw: (plan, settings, context, shapes) =>
      drawSurface(
        plan,
        {
          look: settings,
          ownGround: source.ownGround?.(settings) ?? false,
          fine: source.finer?.(settings, context) ?? null,
        },
        context,
        shapes,
      ),
    legend: (plan, settings, data) => surfaceLegend(plan, settings, words(settings, data)),
    legendLines: null,
    sentence: own.sentence,
    classings: (settings) => (usesClasses(settings) ? [settings as Classing] : []),
    classification: (plan, settings, data) => {
      if (!usesClasses(settings) || !plan.classification) return null
      return {
        heading: source.heading(settings, data),
        unit: source.unit(settings, data),
        result: plan.classification,
        colours: plan.colours,
        labels: plan.labels,
        generated: plan.generated,
        values: plan.sample,
        things: ['cell', 'cells'],
        continuous: true,
        ground: { sizes: plan.sizes, neighbours: null },
        pool: plan.pool,
        mayMove: null,
      }
    },
    shared: {
      keys: [...Object.keys(classingShape), ...Object.keys(colouringShape), 'ownColours', 'least'],
      member: (settings) => ({ made: madeBy(settings) }),
    },
    years: null,
    showField: own.showField,
    needs: (settings) => [
      ...new Set([
        ...source.needs(settings),
        ...(settings.share?.members.map(({ datasetId }) => datasetId) ?? []),
        ...(settings.mask ? [settings.mask.datasetId] : []),
        ...settings.lines.on.map(({ datasetId }) => datasetId),
        ...(settings.peaks?.names ? [settings.peaks.names.datasetId] : []),
      ]),
    ],
    remap: own.remap,
    read: () => null,
    fonts: (settings) => (settings.lines.numbered === 'none' ? [] : [numberStyle(settings).font]),
    chip: (plan) => (plan.colours.length ? plan.colours : ['#9a9a9a']),
    caution(plan, settings, data) {
      if (plan.levels.length >= mostLevels)
        return {
          words: `More than ${mostLevels} lines: only the first are drawn.`,
          remedies: [
            {
              label: `Every ${formatNumber((settings.interval ?? 1) * 10, 0)}`,
              settings: { ...settings, interval: (settings.interval ?? 1) * 10 },
            },
          ],
        }
      return (
        own.caution(plan, settings, data) ?? (plan.distances ? { words: plan.distances, remedies: [] } : null)
      )
    },
  }
}

/** The value at a place: of the cells that a raster holds where nothing is smoothed, or else of the surface. */
function valueOf<S>(
  source: SurfaceSource<S>,
  place: [lon: number, lat: number],
  settings: S,
  data: KindData,
): number {
  const fine = source.finer?.(settings, data)
  if (fine?.sigmaM === 0 && fine.cellM === null) return valueUnder(fine.raster, fine.band)(place)
  const surface = surfaceOf(source, settings, data)
  return surface ? valueAt(surface.grid, ...createProjection(surface.grid.plane).project(...place)) : NaN
}

/** Whether classes show: as fills, or as the lines at their ends. */
const usesClasses = ({ form, interval, lined }: SurfaceLook): boolean =>
  form === 'bands' || (interval === null && (lined || form !== 'tint'))

/** “in six classes”, “as lines every 50 m”, “as a smooth tint”: how a surface is shown. */
export function formWords(settings: SurfaceLook, count: string, unit: string): SentencePart[] {
  const every =
    settings.interval === null
      ? ''
      : ` every ${writeNumber(settings.interval, settings.numbers, 3).replace(/\.?0+$/, '')} ${unit}`.trimEnd()
  switch (settings.form) {
    case 'bands':
      return [{ text: 'in ' }, { text: `${count} classes`, control: 'classes' }, { text: ' by ' }]
    case 'lines':
      return [{ text: 'as ' }, { text: `lines${every}`, control: 'shape' }]
    case 'tint':
      return [{ text: 'as ' }, { text: 'a smooth tint', control: 'shape' }]
    case 'shaded':
      return [{ text: 'as ' }, { text: `lit lines${every}`, control: 'shape' }]
  }
}
