import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { circle, polygon, polyline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle, TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { lookIds, looks, type Look, type Stroke } from './looks'
import { northOf } from './north'

export const NorthArrowSettings = z.object({
  /** The panel it points on; null is the sheet's first. */
  panelId: z.string().nullable(),
  look: z.enum(lookIds),
  /** True north at the panel's centre, or up along the grid of the projection. */
  north: z.enum(['true', 'grid']),
  dark: Hex,
  light: Hex,
  lineWidthPt: z.number().min(0.1).max(10),
  /** What stands at its tip; empty for nothing. */
  letter: z.string().max(12),
  style: TypeStyle,
})
export type NorthArrowSettings = z.infer<typeof NorthArrowSettings>

type Inner = { at: (x: number, y: number) => [number, number]; unitMm: number; lineMm: number }

const pieceOf = (piece: Stroke, { dark, light }: NorthArrowSettings, { at, unitMm, lineMm }: Inner): Node => {
  const colours = { dark, light }
  const edge = (weight = 1) => stroke(dark, lineMm * weight, { join: 'round' })
  if (piece.draw === 'ring') {
    const [x, y] = at(...(piece.at ?? [0, 0]))
    return path(circle(x, y, piece.r * unitMm), {
      fill: piece.fill ? solid(colours[piece.fill]) : null,
      strokes: [edge(piece.weight)],
    })
  }
  const points = piece.points.flatMap(([x, y]) => at(x, y))
  return piece.draw === 'area'
    ? path(polygon(points), {
        fill: solid(colours[piece.fill]),
        strokes: piece.outlined ? [edge(0.5)] : [],
      })
    : path(polyline(points), { strokes: [edge(piece.weight)] })
}

/** The letters, which stand upright however the arrow is turned. */
function lettersOf(settings: NorthArrowSettings, look: Look, inner: Inner, context: SheetContext): Node[] {
  const { letter, style } = settings
  if (!letter || !look.letter) return []
  const all = [{ letter, ...look.letter }, ...(look.quarters ?? [])]
  return all.map((one) => {
    const capital = lineStyle(style)
    const { capHeightMm } = verticalMetrics(context.fonts, capital)
    const factor = (one.height * inner.unitMm) / Math.max(1e-6, capHeightMm)
    const sized = { ...capital, sizeMm: capital.sizeMm * factor }
    const [x, y] = inner.at(...one.at)
    const height = one.height * inner.unitMm
    return textNode(context.fonts, one.letter, sized, {
      x,
      y: y + height / 2,
      anchor: 'middle',
      colour: style.colour,
    })
  })
}

/** An arrow that points north on a panel, however the panel, its map or the arrow itself is turned. */
export const northArrow: PartType<NorthArrowSettings> = {
  label: 'North',
  group: 'maps',
  settings: NorthArrowSettings,
  resize: 'free',
  keepsLabelsOff: true,
  styles: ['style'],
  measure: (_, { width, height }) => ({ width, height }),
  compose(settings, box, context, { name, rotationDeg }) {
    const panel = context.panel(settings.panelId)
    const north = panel && northOf(panel, settings.north)
    // The sheet turns the part: what it will turn is taken back, so that the arrow still points north.
    const angle = (((north ?? 0) - rotationDeg) * Math.PI) / 180
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
    const unitMm = Math.min(box.width, box.height) / 2
    const [cx, cy] = middle(box)
    const inner: Inner = {
      unitMm,
      lineMm: pointsToMm(settings.lineWidthPt),
      at: (x, y) => [cx + unitMm * (x * cos + y * sin), cy - unitMm * (y * cos - x * sin)],
    }
    const look: Look = looks[settings.look]
    return [
      group(`${name} arrow`, [
        ...look.strokes.map((piece) => pieceOf(piece, settings, inner)),
        ...lettersOf(settings, look, inner, context),
      ]),
    ]
  },
  leansOn({ panelId }, _, { panel }) {
    const shown = panel(panelId)
    return shown ? [shown.map.projection, shown.view, shown.frame.rotationDeg] : []
  },
  fonts: ({ style }) => [lineStyle(style).font],
  initial({ sheet }) {
    const { x, y, width } = innerBox(sheet)
    return {
      name: 'North arrow',
      box: { x: x + width - 22, y: y + 4, width: 18, height: 18 },
      settings: {
        panelId: null,
        look: 'fold',
        north: 'true',
        dark: '#1b1b1b',
        light: '#ffffff',
        lineWidthPt: 0.5,
        letter: 'N',
        style: inStyle('heading'),
      },
    }
  },
  refs: ({ panelId }) => ({ ...noRefs, parts: panelId === null ? [] : [panelId] }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
  }),
}

const middle = ({ x, y, width, height }: PartBox): [number, number] => [x + width / 2, y + height / 2]
