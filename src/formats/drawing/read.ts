import type { Element as XmlElement } from '@xmldom/xmldom'
import { SVGPathData } from 'svg-pathdata'
import { color as parseColour } from 'd3-color'
import type { Box, Outline, Verb } from '@/core/scene/outline'
import {
  stroke as makeStroke,
  withOpacity,
  type Colour,
  type Paint,
  type Stop,
  type Stroke,
} from '@/core/scene/paint'
import { group, path, type Node, type Transform } from '@/core/scene/scene'
import { ImportError } from '../import-error'
import { rootOf } from './root'
import { matrixOf, times } from './transform'

/** A drawing: its space, in its own units, and what is in it. */
export type Drawing = {
  box: Box
  nodes: Node[]
  /** What was left out, a sentence each. */
  lost: string[]
}

/** So many elements, references counted each time, and places of their paths; a page can bear no more. */
const mostElements = 200_000
const mostPlaces = 4_000_000
/** So much text is read. */
const mostText = 30_000_000
/** Sides of a drawing in its own units. */
const [leastSide, mostSide] = [1e-3, 1e6]

type Rules = Map<string, Record<string, string>>
type Style = Record<string, string>
type Job = {
  ids: Map<string, XmlElement>
  rules: Rules
  lost: Map<string, number>
  count: number
  /** Places of all paths so far. */
  places: number
  using: Set<string>
}

/** What is inherited from the element around (SVG 1.1, 6.4), as far as drawings here have it. */
const inherited = [
  'fill',
  'fill-opacity',
  'fill-rule',
  'stroke',
  'stroke-opacity',
  'stroke-width',
  'stroke-linecap',
  'stroke-linejoin',
  'stroke-dasharray',
  'color',
  'visibility',
]
const own = ['opacity', 'display', 'clip-path', 'stop-color', 'stop-opacity']

const noStyle: Style = { fill: '#000000', stroke: 'none', 'stroke-width': '1', color: '#000000' }

const declarations = (text: string): Style =>
  Object.fromEntries(
    text
      .split(';')
      .map((rule) => rule.split(':').map((part) => part.trim()))
      .filter((rule) => rule.length === 2 && rule[0] !== '')
      .map(([name, value]) => [name, value.replace(/\s*!important$/, '')]),
  )

/** Rules of style sheets for classes, ids and element names; anything more is passed over. */
function rulesOf(root: XmlElement): Rules {
  const rules: Rules = new Map()
  for (const sheet of Array.from(root.getElementsByTagName('style'))) {
    for (const rule of withoutComments(sheet.textContent ?? '').split('}')) {
      const [selectors, body] = rule.split('{').slice(-2)
      if (body === undefined) continue
      for (const selector of selectors.split(',').map((one) => one.trim()))
        if (/^[.#]?[\w-]+$/.test(selector))
          rules.set(selector, { ...rules.get(selector), ...declarations(body) })
    }
  }
  return rules
}

/** A style sheet without what stands between its marks of comments. */
const withoutComments = (text: string): string =>
  text
    .split('/*')
    .map((piece, i) => (i === 0 ? piece : piece.slice((piece.indexOf('*/') + 1 || piece.length) + 1)))
    .join('')

function styleOf(element: XmlElement, parent: Style, { rules }: Job): Style {
  const style: Style = {}
  for (const name of inherited) if (parent[name] !== undefined) style[name] = parent[name]
  const classes = (element.getAttribute('class') ?? '').split(/\s+/).filter(Boolean)
  const attributes: Style = {}
  for (const name of [...inherited, ...own]) {
    const value = element.getAttribute(name)
    if (value !== null && value !== '') attributes[name] = value
  }
  Object.assign(
    style,
    attributes,
    rules.get(element.localName ?? ''),
    ...classes.map((name) => rules.get(`.${name}`)),
    rules.get(`#${element.getAttribute('id') ?? ''}`),
    declarations(element.getAttribute('style') ?? ''),
  )
  for (const [name, value] of Object.entries(style)) if (value === 'inherit') style[name] = parent[name] ?? ''
  return style
}

const perUnit: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
}

/** A length in user units; percentages are of `whole`. */
function lengthOf(text: string | null | undefined, whole = 0): number {
  const match = /^\s*([-+]?[\d.]+(?:e[-+]?\d+)?)\s*(px|pt|pc|mm|cm|in|%)?\s*$/i.exec(text ?? '')
  if (!match) return 0
  const value = Number(match[1])
  if (match[2] === '%') return (value / 100) * whole
  return Number.isFinite(value) ? value * perUnit[(match[2] ?? '').toLowerCase()] : 0
}

const numberOf = (text: string | undefined, otherwise: number): number => {
  const value = text?.trim().endsWith('%') ? Number.parseFloat(text) / 100 : Number.parseFloat(text ?? '')
  return Number.isFinite(value) ? value : otherwise
}

/** A colour as `#rrggbb` or `#rrggbbaa`; null for none and for what is not understood. */
function colourOf(text: string | undefined, current: string): Colour | null {
  const word = (text ?? '').trim()
  if (word === '' || word === 'none' || word === 'transparent') return null
  const parsed = parseColour(word === 'currentColor' ? current : word)
  if (!parsed) return null
  const { r, g, b, opacity } = parsed.rgb()
  const hex = (n: number) =>
    Math.max(0, Math.min(255, Math.round(n)))
      .toString(16)
      .padStart(2, '0')
  return withOpacity(`#${hex(r)}${hex(g)}${hex(b)}`, opacity)
}

const localId = (text: string | null | undefined): string | null =>
  /url\(\s*['"]?#([^'")]+)['"]?\s*\)/.exec(text ?? '')?.[1] ?? null

const hrefOf = (element: XmlElement): string =>
  element.getAttribute('href') || element.getAttribute('xlink:href') || ''

/** A paint of a fill, over a box; null for none. */
function paintOf(style: Style, box: Box | null, job: Job): Paint | null {
  const opacity = numberOf(style['fill-opacity'], 1)
  const id = localId(style.fill)
  const gradient = id === null ? undefined : job.ids.get(id)
  if (gradient) return gradientOf(gradient, { box, opacity, job })
  const colour = colourOf(style.fill, style.color ?? '#000000')
  return colour === null ? null : { type: 'solid', colour: withOpacity(colour, opacity) }
}

/** Stops of a gradient, or of the one that it refers to. */
function stopsOf(gradient: XmlElement, job: Job, seen = new Set<XmlElement>()): Stop[] {
  const stops = Array.from(gradient.getElementsByTagName('stop')).map((stop): Stop => {
    const style = styleOf(stop, noStyle, job)
    const colour = colourOf(style['stop-color'] ?? '#000000', '#000000') ?? '#000000'
    const offset = Math.max(0, Math.min(1, numberOf(stop.getAttribute('offset') ?? '0', 0)))
    return { offset, colour: withOpacity(colour, numberOf(style['stop-opacity'], 1)) }
  })
  const other = job.ids.get(hrefOf(gradient).replace('#', ''))
  seen.add(gradient)
  return stops.length || !other || seen.has(other) ? stops : stopsOf(other, job, seen)
}

function gradientOf(
  gradient: XmlElement,
  { box, opacity, job }: { box: Box | null; opacity: number; job: Job },
): Paint | null {
  const stops = stopsOf(gradient, job).map((stop) => ({ ...stop, colour: withOpacity(stop.colour, opacity) }))
  if (!stops.length || !box) return null
  if (stops.length === 1) return { type: 'solid', colour: stops[0].colour }
  const ofBox = gradient.getAttribute('gradientUnits') !== 'userSpaceOnUse'
  const matrix = matrixOf(gradient.getAttribute('gradientTransform') ?? '')
  const place = (x: number, y: number): [number, number] => {
    const [a, b, c, d, e, f] = matrix
    const [px, py] = [a * x + c * y + e, b * x + d * y + f]
    return ofBox ? [box.x + px * box.width, box.y + py * box.height] : [px, py]
  }
  const number = (name: string, otherwise: string): number => {
    const text = gradient.getAttribute(name) || otherwise
    return text.endsWith('%') ? Number.parseFloat(text) / 100 : lengthOf(text)
  }
  if (gradient.localName === 'linearGradient')
    return {
      type: 'linear',
      from: place(number('x1', '0%'), number('y1', '0%')),
      to: place(number('x2', '100%'), number('y2', '0%')),
      stops,
    }
  const [cx, cy, r] = [number('cx', '50%'), number('cy', '50%'), number('r', '50%')]
  const centre = place(cx, cy)
  const [ex, ey] = place(cx + r, cy)
  return { type: 'radial', centre, radius: Math.max(1e-6, Math.hypot(ex - centre[0], ey - centre[1])), stops }
}

function strokesOf(style: Style, job: Job): Stroke[] {
  const id = localId(style.stroke)
  const gradient = id === null ? undefined : job.ids.get(id)
  // Lines have one colour here: that of the middle of a gradient.
  const stops = gradient ? stopsOf(gradient, job) : []
  const colour = stops.length
    ? stops[stops.length >> 1].colour
    : colourOf(style.stroke, style.color ?? '#000000')
  const width = lengthOf(style['stroke-width'] ?? '1')
  if (!colour || width <= 0) return []
  const cap = style['stroke-linecap']
  const join = style['stroke-linejoin']
  const dash = (style['stroke-dasharray'] ?? '')
    .split(/[\s,]+/)
    .map((one) => lengthOf(one))
    .filter((n) => n >= 0)
  return [
    makeStroke(withOpacity(colour, numberOf(style['stroke-opacity'], 1)), width, {
      cap: cap === 'round' || cap === 'square' ? cap : 'butt',
      join: join === 'round' || join === 'bevel' ? join : 'miter',
      dashMm: dash.some((n) => n > 0) ? dash : [],
    }),
  ]
}

/** Path data of an element that is drawn; null for others. */
function dataOf(element: XmlElement): string | null {
  const number = (name: string): number => lengthOf(element.getAttribute(name))
  const round = (cx: number, cy: number, [rx, ry]: [number, number]): string =>
    `M${cx - rx} ${cy}A${rx} ${ry} 0 1 1 ${cx + rx} ${cy}A${rx} ${ry} 0 1 1 ${cx - rx} ${cy}Z`
  switch (element.localName) {
    case 'path':
      return element.getAttribute('d')
    case 'rect': {
      const [x, y, w, h] = [number('x'), number('y'), number('width'), number('height')]
      if (!(w > 0 && h > 0)) return null
      const rx = Math.min(w / 2, number('rx') || number('ry'))
      const ry = Math.min(h / 2, number('ry') || number('rx'))
      if (!(rx > 0 && ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}Z`
      const corner = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
      return `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}Z`
    }
    case 'circle':
      return number('r') > 0 ? round(number('cx'), number('cy'), [number('r'), number('r')]) : null
    case 'ellipse':
      return number('rx') > 0 && number('ry') > 0
        ? round(number('cx'), number('cy'), [number('rx'), number('ry')])
        : null
    case 'line':
      return `M${number('x1')} ${number('y1')}L${number('x2')} ${number('y2')}`
    case 'polygon':
    case 'polyline': {
      const points = (element.getAttribute('points') ?? '').trim()
      return points ? `M${points}${element.localName === 'polygon' ? 'Z' : ''}` : null
    }
    default:
      return null
  }
}

/** Path data as an outline with its box; null for what cannot be read or is empty. */
function outlineOf(data: string): { outline: Extract<Outline, { kind: 'curves' }>; box: Box } | null {
  try {
    const { commands } = new SVGPathData(data).toAbs().normalizeHVZ(false).normalizeST().qtToC().aToC()
    const verbs: Verb[] = []
    const coords: number[] = []
    for (const c of commands) {
      if (c.type === SVGPathData.MOVE_TO) {
        verbs.push('M')
        coords.push(c.x, c.y)
      } else if (c.type === SVGPathData.LINE_TO) {
        verbs.push('L')
        coords.push(c.x, c.y)
      } else if (c.type === SVGPathData.CURVE_TO) {
        verbs.push('C')
        coords.push(c.x1, c.y1, c.x2, c.y2, c.x, c.y)
      } else if (c.type === SVGPathData.CLOSE_PATH) verbs.push('Z')
    }
    if (verbs.length < 2 || !coords.every(Number.isFinite)) return null
    const [xs, ys] = [coords.filter((_, i) => i % 2 === 0), coords.filter((_, i) => i % 2 === 1)]
    const [x, y] = [least(xs), least(ys)]
    const box = { x, y, width: most(xs) - x, height: most(ys) - y }
    return { outline: { kind: 'curves', verbs, coords: Float64Array.from(coords) }, box }
  } catch {
    return null
  }
}

const least = (list: number[]): number => list.reduce((a, b) => Math.min(a, b), Infinity)
const most = (list: number[]): number => list.reduce((a, b) => Math.max(a, b), -Infinity)

const silent = new Set([
  'defs',
  'title',
  'desc',
  'metadata',
  'style',
  'linearGradient',
  'radialGradient',
  'symbol',
  'clipPath',
  'marker',
  'pattern',
  'mask',
  'filter',
  'switch',
])
const lostWords: Record<string, [string, string]> = {
  text: [
    'A text was left out: turn it into outlines first.',
    'texts were left out: turn them into outlines first.',
  ],
  image: ['A picture within it was left out.', 'pictures within it were left out.'],
  script: ['A script was taken out.', 'scripts were taken out.'],
  foreignObject: ['Something that is no drawing was left out.', 'things that are no drawings were left out.'],
  use: ['A reference to something outside was left out.', 'references to something outside were left out.'],
}

const children = (element: XmlElement): XmlElement[] =>
  Array.from(element.childNodes).filter((node): node is XmlElement => node.nodeType === 1)

const lose = (job: Job, what: string): Node[] => {
  job.lost.set(what, (job.lost.get(what) ?? 0) + 1)
  return []
}

/** An element as nodes of a scene. */
function nodesOf(element: XmlElement, parent: Style, job: Job): Node[] {
  if (++job.count > mostElements) throw new ImportError(`It has more than ${mostElements} elements.`)
  const name = element.localName ?? ''
  if (silent.has(name))
    return name === 'switch' ? children(element).flatMap((one) => nodesOf(one, parent, job)) : []
  if (name in lostWords && name !== 'use') return lose(job, name)
  const style = styleOf(element, parent, job)
  if (style.display === 'none') return []
  const inner = contentOf(element, style, job)
  if (!inner.length) return []
  const transform = transformOf(element)
  const opacity = numberOf(style.opacity, 1)
  const clipId = localId(style['clip-path'])
  const clip = clipId === null ? null : clipOf(job.ids.get(clipId))
  if (!transform && opacity >= 1 && !clip) return inner
  const id = element.getAttribute('id') || name
  return [group(id, inner, { transform, opacity: Math.max(0, Math.min(1, opacity)), clip })]
}

function transformOf(element: XmlElement): Transform | null {
  const text = element.getAttribute('transform')
  const move: Transform | null =
    element.localName === 'use'
      ? [1, 0, 0, 1, lengthOf(element.getAttribute('x')), lengthOf(element.getAttribute('y'))]
      : null
  if (!text) return move
  return move ? times(matrixOf(text), move) : matrixOf(text)
}

/** The shapes of a clip path together. */
function clipOf(clip: XmlElement | undefined): Outline | null {
  const data = clip ? children(clip).flatMap((one) => dataOf(one) ?? []) : []
  return data.length ? (outlineOf(data.join(''))?.outline ?? null) : null
}

function contentOf(element: XmlElement, style: Style, job: Job): Node[] {
  const name = element.localName ?? ''
  if (name === 'g' || name === 'a' || name === 'svg')
    return children(element).flatMap((one) => nodesOf(one, style, job))
  if (name === 'use') {
    const href = hrefOf(element)
    const target = href.startsWith('#') ? job.ids.get(href.slice(1)) : undefined
    if (!target) return lose(job, 'use')
    // What uses itself would have no end.
    if (job.using.has(href)) return []
    job.using.add(href)
    const used =
      target.localName === 'symbol'
        ? children(target).flatMap((one) => nodesOf(one, style, job))
        : nodesOf(target, style, job)
    job.using.delete(href)
    return used
  }
  const data = dataOf(element)
  const shape = data && style.visibility !== 'hidden' ? outlineOf(data) : null
  if (!shape) return []
  if ((job.places += shape.outline.coords.length) > mostPlaces)
    throw new ImportError(`Its paths have more than ${mostPlaces / 1e6} million places.`)
  const fill = name === 'line' ? null : paintOf(style, shape.box, job)
  const strokes = strokesOf(style, job)
  if (!fill && !strokes.length) return []
  return [
    path(shape.outline, {
      fill,
      strokes,
      fillRule: style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero',
    }),
  ]
}

/** The space of a drawing in its own units: that of its `viewBox`, or its width and height. */
function spaceOf(root: XmlElement): Box | null {
  const [x, y, width, height] = (root.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  if (width > 0 && height > 0 && Number.isFinite(x) && Number.isFinite(y)) return { x, y, width, height }
  const [w, h] = [lengthOf(root.getAttribute('width')), lengthOf(root.getAttribute('height'))]
  return w > 0 && h > 0 ? { x: 0, y: 0, width: w, height: h } : null
}

/** How many elements begin in a text, about; found without reading it. */
function elementsIn(text: string): number {
  let count = 0
  for (let at = text.indexOf('<'); at >= 0 && count <= mostElements; at = text.indexOf('<', at + 1)) {
    const next = text.charCodeAt(at + 1)
    // Ends and comments begin with other signs.
    if (next > 0x40) count++
  }
  return count
}

/**
 * Reads an SVG drawing (SVG 1.1 and what of SVG 2 is alike) as shapes: paths and basic shapes with fills, gradients,
 * lines, opacity, clips and references within the file. Scripts, links to elsewhere, texts, pictures, filters and
 * masks are not in what comes out; what was left out is said.
 * @throws ImportError saying what is wrong with it.
 */
export function readDrawing(text: string, fileName: string): Drawing {
  if (text.length > mostText || elementsIn(text) > mostElements)
    throw new ImportError(
      `${fileName} is too large for a page: a drawing has ${mostText / 1e6} MB and ${mostElements.toLocaleString('en-GB')} elements at most.`,
    )
  const root = rootOf(text)
  if (root?.localName !== 'svg') throw new ImportError(`${fileName} is no SVG drawing.`)
  const ids = new Map<string, XmlElement>()
  for (const element of Array.from(root.getElementsByTagName('*'))) {
    const id = element.getAttribute('id')
    if (id) ids.set(id, element)
  }
  const job: Job = { ids, rules: rulesOf(root), lost: new Map(), count: 0, places: 0, using: new Set() }
  const nodes = children(root).flatMap((one) => nodesOf(one, styleOf(root, noStyle, job), job))
  const box = spaceOf(root)
  if (!box) throw new ImportError(`${fileName} says neither a size nor a viewBox.`)
  const sides = [box.width, box.height]
  if (
    sides.some((side) => !(side >= leastSide && side <= mostSide)) ||
    !(Math.abs(box.x) + Math.abs(box.y) <= mostSide)
  )
    throw new ImportError(
      `${fileName} says that it is ${box.width} × ${box.height} units large, which no page can hold.`,
    )
  if (!nodes.length) throw new ImportError(`There is nothing in ${fileName} that can be drawn.`)
  const lost = [...job.lost].map(([what, count]) => {
    const [one, many] = lostWords[what]
    return count === 1 ? one : `${count} ${many}`
  })
  return { box, nodes, lost }
}
