import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { rgb } from 'd3-color'
import { textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { borderOutline, featureOutline } from '@/core/geo/outlines'
import { generalise } from '@/core/geo/generalise'
import { projectGeometry } from '@/core/geo/projected'
import { fromOklch, toOklch } from '@/core/colour/oklch'
import { solid, stroke, type Colour, type Paint } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { featureCount } from '@/core/geo/geometry'
import { pointsToMm } from '@/core/scene/units'
import { createMemory } from '@/core/memory/memory'
import type { DrawContext } from './kind'
import { Pencil, pencilled, spacingFor } from './pencil'

/** The lines of shaded areas, and the ground that they are shaded on. Widths are in points. */
export const areaLookShape = {
  missing: z.object({ colour: Hex, hatched: z.boolean(), label: z.string() }),
  outline: z.object({
    /** Lines between areas: of one colour, or of a darker shade of each area's own. */
    from: z.enum(['colour', 'fill']).default('colour'),
    colour: Hex,
    widthPt: z.number().min(0).max(20),
    coastColour: Hex,
    coastWidthPt: z.number().min(0).max(20),
    /** Heavier lines where areas belong to different groups, such as provinces; null for none. */
    level: z
      .object({ field: z.string(), colour: Hex, widthPt: z.number().min(0).max(20) })
      .nullable()
      .default(null),
  }),
  /** Shaded only where these areas are, such as inhabited ground; elsewhere flat. Null shades areas whole. */
  mask: z.object({ datasetId: z.string(), elsewhere: Hex }).nullable().default(null),
  /** Strokes as if by pencil in place of flat colours; null fills them. */
  pencil: Pencil.nullable().default(null),
  /** Which classes are drawn last, over the lines of the others. */
  last: z.enum(['high', 'low']).default('high'),
}
export const AreaLook = z.object(areaLookShape)
export type AreaLook = z.infer<typeof AreaLook>

/** The look of areas before anybody changed it. */
export const plainAreaLook = (): AreaLook =>
  AreaLook.parse({
    // Paler than the lowest class of every scheme: what is not known must not look like much.
    missing: { colour: '#c6c6c6', hatched: true, label: 'no data' },
    outline: { colour: '#ffffff', widthPt: 0.25, coastColour: '#6f7f86', coastWidthPt: 0.35 },
  })

/** A flat colour, or lines of it on white. */
export const asidePaint = ({ colour, hatched }: { colour: string; hatched: boolean }): Paint =>
  hatched
    ? { type: 'hatch', colour, background: '#ffffff', angleDeg: 45, spacingMm: 0.9, widthMm: 0.2 }
    : solid(colour)

/** Values outside breaks set by hand are shown in a colour that cannot be overlooked. */
export const outsidePaint: Paint = {
  type: 'hatch',
  colour: '#c2185b',
  background: '#ffffff',
  angleDeg: -45,
  spacingMm: 0.8,
  widthMm: 0.3,
}

/**
 * Areas of one paint, under the name that they have in the file. `share` is how high the class is, 0 to 1, where
 * classes have an order.
 */
export type AreaClass = { name: string; fill: Paint; members: number[]; share?: number }

/** One path for each class, lowest first, then what is laid `over` them, then every border once. */
export function drawAreas(
  classes: AreaClass[],
  look: AreaLook,
  context: DrawContext,
  over: AreaClass[] = [],
): Node[] {
  const { projected, to, window, featureName } = context
  if (projected.kind !== 'areas') return []
  const { pencil } = look
  const shape = (
    { name, fill, members, share = 1 }: AreaClass,
    strokes: ReturnType<typeof stroke>[] = [],
  ): Node[] => {
    if (!members.length) return []
    const { outline, offsets, kept } = featureOutline(projected, members, to, window)
    if (pencil && fill.type === 'solid' && kept.length) {
      const spacingMm = spacingFor(pencil, share)
      return [group(name, pencilled(outline, fill.colour, pencil, { origin: [to.dx, to.dy], spacingMm }))]
    }
    return kept.length
      ? [group(name, [path(outline, { fill, strokes, features: { offsets, names: kept.map(featureName) } })])]
      : []
  }
  const own = look.outline.from === 'fill' && look.outline.widthPt > 0
  const shades = (look.last === 'high' ? classes : [...classes].reverse()).flatMap((one) =>
    shape(
      one,
      own && one.fill.type === 'solid'
        ? [stroke(darker(one.fill.colour), pointsToMm(look.outline.widthPt))]
        : [],
    ),
  )
  const laid = [...shades, ...over.flatMap((one) => shape(one))]
  return [...masked(laid, look, context), ...borders(look, context)]
}

/** A shade for the line around a colour, darker by a fifth of the way from black to white. */
export function darker(colour: Colour): Colour {
  const { l, c, h } = toOklch(rgb(colour).formatHex())
  return fromOklch({ l: Math.max(0.1, l - 0.2), c: c * 1.05, h })
}

/** The shades where the mask is, and a flat ground for whole areas elsewhere. */
function masked(
  shades: Node[],
  { mask }: AreaLook,
  { projection, projected, to, window, toleranceMm, datasetOf, featureName }: DrawContext,
): Node[] {
  const ground = mask && datasetOf(mask.datasetId)
  if (!mask || !ground || ground.geometry.kind !== 'areas' || projected.kind !== 'areas') return shades
  const every = (of: typeof projected) => Array.from({ length: featureCount(of) }, (_, f) => f)
  const whole = featureOutline(projected, every(projected), to, window)
  const inhabited = generalise(projectGeometry(ground.geometry, projection), toleranceMm / to.mmPerMetre)
  if (inhabited.kind !== 'areas') return shades
  const clip = featureOutline(inhabited, every(inhabited), to, window).outline
  return [
    group('elsewhere', [
      path(whole.outline, {
        fill: solid(mask.elsewhere),
        features: { offsets: whole.offsets, names: whole.kept.map(featureName) },
      }),
    ]),
    group('within the mask', shades, { clip }),
  ]
}

function borders({ outline }: AreaLook, { projected, to, window, dataset }: DrawContext): Node[] {
  const line = (
    which: 'between' | 'outer',
    colour: string,
    widthPt: number,
    apart: Int32Array | null = null,
  ): Node[] =>
    widthPt > 0
      ? [
          path(borderOutline(projected, which, to, { window, apart }), {
            strokes: [stroke(colour, pointsToMm(widthPt))],
          }),
        ]
      : []
  const lines = [
    ...(outline.from === 'colour' ? line('between', outline.colour, outline.widthPt) : []),
    ...(outline.level
      ? line('between', outline.level.colour, outline.level.widthPt, groupsBy(dataset, outline.level.field))
      : []),
    ...line('outer', outline.coastColour, outline.coastWidthPt),
  ]
  return lines.length ? [group('borders', lines)] : []
}

const rememberGroups = createMemory<Dataset, Int32Array>('groups of areas', { maxBytes: 16 * 2 ** 20 })

/** A number for each feature that is the same for equal values of a field. */
function groupsBy(dataset: Dataset, field: string): Int32Array {
  return rememberGroups(dataset, field, () => {
    const column = fieldOf(dataset, field)
    const numbers = new Map<string, number>()
    return Int32Array.from({ length: dataset.rowCount }, (_, row) => {
      const text = (column && textAt(column, row)) ?? ''
      if (!numbers.has(text)) numbers.set(text, numbers.size)
      return numbers.get(text) ?? 0
    })
  })
}
