import { lettersNode, textNode, traceGlyphs, type FontBook } from '@/core/scene/text'
import { rectangle, type Box, type Outline } from '@/core/scene/outline'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { group, path, translate, type Node, type Text } from '@/core/scene/scene'
import { pen, roundedRectangle } from '@/core/scene/shapes'
import { pointsToMm } from '@/core/scene/units'
import { paintOf } from '../fill'
import type { LaidText } from './lay-out'
import type { Piece } from './lines'
import type { Effects, Ground } from './spec'

/** The outlines of the glyphs of a text where it stands. */
export function glyphOutline(fonts: FontBook, node: Text): Outline {
  const drawing = pen()
  const [cos, sin] = [
    Math.cos((node.rotationDeg * Math.PI) / 180),
    Math.sin((node.rotationDeg * Math.PI) / 180),
  ]
  // Letters that stand by themselves have their places in the glyphs already.
  const at = (x: number, y: number): [number, number] =>
    node.letters ? [x, y] : [node.x + x * cos - y * sin, node.y + x * sin + y * cos]
  traceGlyphs(fonts, node, {
    moveTo: (x, y) => void drawing.move(...at(x, y)),
    lineTo: (x, y) => void drawing.line(...at(x, y)),
    bezierCurveTo: (...c) => void drawing.curve(at(c[0], c[1]), at(c[2], c[3]), at(c[4], c[5])),
    closePath: () => void drawing.close(),
  })
  return drawing.outline()
}

/** A glow is so many strokes over each other, more where it reaches farther. */
const glowSteps = (radiusMm: number): number => Math.max(8, Math.min(28, Math.round(radiusMm * 8)))

/**
 * Strokes around outlines, each narrower than the one beneath, that together fade evenly from `strength` at the
 * letters to nothing at `radiusMm`.
 */
function softly(
  outlines: readonly Outline[],
  colour: string,
  { radiusMm, strength }: { radiusMm: number; strength: number },
): Node[] {
  const steps = glowSteps(radiusMm)
  const reached = (step: number) => (strength * step) / steps
  return Array.from({ length: steps }, (_, i) => {
    const widthMm = (2 * radiusMm * (steps - i)) / steps
    // So much is added that all strokes so far make up their share.
    const opacity = 1 - (1 - reached(i + 1)) / (1 - reached(i))
    const strokes = [stroke(colour, widthMm)]
    return group(
      `glow ${i + 1}`,
      outlines.map((outline) => path(outline, { strokes })),
      { opacity },
    )
  })
}

/** Texts with what lies around and under them. Glow, shadow and gradient are drawn as outlines; the words stay text. */
export function withEffects(
  texts: readonly Text[],
  effects: Effects,
  { fonts, box, name }: { fonts: FontBook; box: Box; name: string },
): Node[] {
  const { halo, glow, shadow, fill } = effects
  const outlines = glow || shadow || fill ? texts.map((node) => glyphOutline(fonts, node)) : []
  const nodes: Node[] = []
  if (shadow) {
    const cast = [
      ...(shadow.softMm > 0
        ? softly(outlines, shadow.colour, { radiusMm: shadow.softMm, strength: 0.6 })
        : []),
      ...outlines.map((outline) => path(outline, { fill: solid(shadow.colour) })),
    ]
    nodes.push(
      group(`${name} shadow`, cast, { opacity: shadow.opacity, transform: translate(shadow.dx, shadow.dy) }),
    )
  }
  if (glow) nodes.push(group(`${name} glow`, softly(outlines, glow.colour, glow)))
  const paint = fill && paintOf(fill, box)
  if (paint) nodes.push(...outlines.map((outline) => path(outline, { fill: paint })))
  const lettering = texts.map((node) => ({
    ...node,
    halo: halo ? { colour: halo.colour, widthMm: pointsToMm(halo.widthPt) } : node.halo,
    // Under a gradient the letters are there to be read and copied, not to be seen.
    colour: paint ? withOpacity(node.colour, 0) : node.colour,
  }))
  return [...nodes, ...lettering]
}

/** The text nodes of a laid out text whose top left corner lies at (x, y); a parted line says what it says together. */
export function textsOf({ lines, initial }: LaidText, fonts: FontBook, [x, y]: [number, number]): Text[] {
  const node = (piece: Piece, left: number, baseline: number): Text =>
    textNode(fonts, piece.text, piece.style, { x: left, y: baseline - piece.riseMm, colour: piece.colour })
  const set = lines.flatMap(({ pieces, x: left, y: baseline }) =>
    pieces
      .filter(({ text }) => text.trim() !== '')
      .map((piece) => node(piece, x + left + piece.x, y + baseline)),
  )
  return initial ? [node(initial.piece, x + initial.x, y + initial.y), ...set] : set
}

/** The ground of a text: its background and border. */
export function drawGround({ background, opacity, border, cornerMm }: Ground, box: Box): Node[] {
  if (!background && border.widthPt === 0) return []
  const outline = cornerMm > 0 ? roundedRectangle(box, cornerMm) : rectangle(box)
  return [
    path(outline, {
      fill: background ? solid(withOpacity(background, opacity)) : null,
      strokes:
        border.widthPt > 0 ? [stroke(border.colour, pointsToMm(border.widthPt), { join: 'miter' })] : [],
    }),
  ]
}

/**
 * A line set along an arc: the middle of its baseline touches the top of a circle of this radius (below it for a
 * negative one), letters upright to the curve. Null where letters and glyphs do not correspond.
 */
export function alongArc(
  piece: Piece,
  fonts: FontBook,
  { middle, y, radiusMm }: { middle: number; y: number; radiusMm: number },
): Text | null {
  const { style } = piece
  const letters = [...piece.text]
  const places: { x: number; y: number; rotationDeg: number }[] = []
  const node = (text: string) => textNode(fonts, text, style, { x: 0, y: 0, colour: piece.colour })
  const whole = node(piece.text).widthMm
  const [cx, cy] = [middle, y + radiusMm]
  letters.forEach((letter, i) => {
    const before = i === 0 ? 0 : node(letters.slice(0, i + 1).join('')).widthMm - node(letter).widthMm
    const half = node(letter).widthMm / 2
    const turn = (before + half - whole / 2) / radiusMm
    const [px, py] = [cx + radiusMm * Math.sin(turn), cy - radiusMm * Math.cos(turn)]
    const rotationDeg = (turn * 180) / Math.PI
    // From the middle of the letter back to its left end, along the tangent.
    places.push({ x: px - half * Math.cos(turn), y: py - half * Math.sin(turn), rotationDeg })
  })
  return lettersNode(fonts, piece.text, style, { letters: places, options: { colour: piece.colour } })
}
