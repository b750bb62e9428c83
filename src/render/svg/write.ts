import { faceFiles, fontFamilies } from '@/core/scene/fonts'
import { channels, type Colour, type Paint, type Stroke } from '@/core/scene/paint'
import {
  outlineBox,
  trace,
  type Circle,
  type Dots,
  type Outline,
  type OutlineSink,
} from '@/core/scene/outline'
import { extentOf } from '@/core/scene/extent'
import {
  group,
  needsCompositing,
  walk,
  type Group,
  type Node,
  type Path,
  type Picture,
  type Raster,
  type Scene,
  type Text,
} from '@/core/scene/scene'
import { traceGlyphs, type FontBook } from '@/core/scene/text'
import { hatchCap, hatchLines } from '../hatch'
import { short } from '../numbers'
import { rgbaToPng } from './png'

export type SvgOptions = {
  fonts: FontBook
  /** `embedded`: text stays text, with the font files inside. `outlines`: glyphs become shapes. */
  text: 'embedded' | 'outlines'
  /** Bytes of a font file; asked for only when text is embedded. */
  fontBytes: (file: string) => Uint8Array
}

type Job = SvgOptions & {
  ids: Set<string>
  defs: string[]
  files: Map<string, Text['font']>
  /** Pictures that are used more than once, by their bytes, with the id of their definition once they have one. */
  shared: Map<Uint8Array, string | null>
}

/**
 * Writes a scene as an SVG 1.1 document with CSS blend modes, one named group for each group of the scene.
 */
export function writeSvg(scene: Scene, options: SvgOptions): string {
  const job: Job = { ...options, ids: new Set(), defs: [], files: new Map(), shared: sharedPictures(scene) }
  const size = `${short(scene.widthMm)} ${short(scene.heightMm)}`
  const paper = scene.background
    ? `<rect id="${freshId(job, 'paper')}" width="${short(scene.widthMm)}" height="${short(scene.heightMm)}" ${colourAttributes('fill', scene.background)}/>\n`
    : ''
  const body = scene.children.map((node) => nodeXml(node, job)).join('')
  const style = job.files.size ? `<style>${fontFaces(job)}</style>\n` : ''
  const defs = job.defs.length ? `<defs>\n${job.defs.join('\n')}\n</defs>\n` : ''
  const desc = scene.description ? `<desc>${escape(scene.description)}</desc>\n` : ''
  return (
    `<?xml version="1.0" encoding="UTF-8"?>\n` +
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${short(scene.widthMm)}mm" height="${short(scene.heightMm)}mm" viewBox="0 0 ${size}">\n` +
    `<title>${escape(scene.title)}</title>\n${desc}${style}${defs}${paper}${body}</svg>\n`
  )
}

function nodeXml(node: Node, job: Job): string {
  if (node.type === 'group') return groupXml(node, job)
  if (node.type === 'path') return pathXml(node, job)
  if (node.type === 'text') return textXml(node, job)
  if (node.type === 'picture') return pictureXml(node, job)
  return imageXml(node, rgbaToPng(node), 'image/png', node.smooth)
}

function groupXml(node: Group, job: Job): string {
  const attributes = [`id="${freshId(job, node.id)}"`]
  if (node.transform)
    attributes.push(`transform="matrix(${node.transform.map((n) => short(n, 6)).join(' ')})"`)
  if (node.opacity < 1) attributes.push(`opacity="${short(node.opacity)}"`)
  if (node.blend !== 'normal') attributes.push(`style="mix-blend-mode:${node.blend}"`)
  else if (needsCompositing(node)) attributes.push('style="isolation:isolate"')
  if (node.clip) {
    const id = freshId(job, `${node.id}-clip`)
    job.defs.push(`<clipPath id="${id}"><path d="${pathData(node.clip)}"/></clipPath>`)
    attributes.push(`clip-path="url(#${id})"`)
  }
  if (node.mask) {
    const id = freshId(job, `${node.id}-mask`)
    const [x0, y0, x1, y1] = extentOf(group('mask', node.mask))
    const area = `x="${short(x0)}" y="${short(y0)}" width="${short(x1 - x0)}" height="${short(y1 - y0)}"`
    const shapes = node.mask.map((one) => nodeXml(one, job)).join('')
    job.defs.push(`<mask id="${id}" maskUnits="userSpaceOnUse" ${area}>\n${shapes}</mask>`)
    attributes.push(`mask="url(#${id})"`)
  }
  const title = node.name && node.name !== node.id ? `<title>${escape(node.name)}</title>\n` : ''
  return `<g ${attributes.join(' ')}>\n${title}${node.children.map((child) => nodeXml(child, job)).join('')}</g>\n`
}

function pathXml(node: Path, job: Job): string {
  if (node.fill?.type === 'hatch') return hatchXml(node, node.fill, job)
  const looks = [
    paintAttributes(node.fill, job),
    node.fillRule === 'evenodd' ? 'fill-rule="evenodd"' : '',
    strokeAttributes(node.strokes[0]),
  ]
    .filter(Boolean)
    .join(' ')
  const more = node.strokes
    .slice(1)
    .map((line) => `<path d="${pathData(node.outline)}" fill="none" ${strokeAttributes(line)}/>\n`)
  if (node.outline.kind === 'dots') return dotsXml(node.outline, node.fill, job)
  if (node.outline.kind === 'circle') return circleXml(node.outline, node, looks, job)
  if (!node.features) return `<path d="${pathData(node.outline)}" ${looks}/>\n${more.join('')}`
  const { offsets, names } = node.features
  const shapes = names.map((name, i) => {
    const data = pathData(node.outline, offsets[i], offsets[i + 1])
    return data ? `<path id="${freshId(job, name)}" d="${data}"/>\n` : ''
  })
  return `<g ${looks}>\n${shapes.join('')}</g>\n${more.join('')}`
}

function circleXml({ x, y, r }: Circle, { strokes, features }: Path, looks: string, job: Job): string {
  const place = `cx="${short(x)}" cy="${short(y)}" r="${short(r)}"`
  const id = features?.names[0] === undefined ? '' : `id="${freshId(job, features.names[0])}" `
  return `<circle ${id}${place} ${looks}/>\n${strokes
    .slice(1)
    .map((line) => `<circle ${place} fill="none" ${strokeAttributes(line)}/>\n`)
    .join('')}`
}

/** Dots in whole units, row by row, there and back, so that steps from one to the next are short. */
function inRows(
  coords: ArrayLike<number>,
  { scale, dx, dy }: { scale: number; dx: number; dy: number },
  unit: number,
): [x: number, y: number][] {
  const dots: [x: number, y: number][] = []
  for (let i = 0; i < coords.length; i += 2) {
    const [x, y] = [(coords[i] * scale + dx) / unit, (coords[i + 1] * scale + dy) / unit]
    if (Number.isFinite(x) && Number.isFinite(y)) dots.push([Math.round(x), Math.round(y)])
  }
  const [across, down] = [0, 1].map((axis) => {
    const sorted = dots.map((dot) => dot[axis]).sort((a, b) => a - b)
    // Where most of them lie; a few far off do not count.
    return sorted.length
      ? sorted[Math.floor(sorted.length * 0.9)] - sorted[Math.floor(sorted.length * 0.1)]
      : 0
  })
  const height = Math.max(1, 1.5 * Math.sqrt((across * down) / dots.length) || 1)
  const row = dots.map(([, y]) => Math.floor(y / height))
  return [...dots.keys()]
    .sort(
      (a, b) => row[a] - row[b] || (row[a] % 2 ? dots[b][0] - dots[a][0] : dots[a][0] - dots[b][0]) || a - b,
    )
    .map((i) => dots[i])
}

/**
 * Dots as one line without length for each, with round ends as wide as the dot (SVG 2, 13.5.2): one element, and a few
 * letters for each dot.
 */
function dotsXml({ coords, r, place: { scale, dx, dy } }: Dots, fill: Paint | null, job: Job): string {
  if (fill?.type !== 'solid') return ''
  // A tenth of a dot is as good as nothing, and no dot is off by more than half of that.
  const unit = Math.max(1, Math.round(20 * r)) / 100
  const parts: string[] = []
  let [px, py] = [0, 0]
  for (const [x, y] of inRows(coords, { scale, dx, dy }, unit)) {
    const [mx, my] = [tight((x - px) * unit), tight((y - py) * unit)]
    parts.push(`m${mx}${my.startsWith('-') ? '' : ' '}${my}h0`)
    ;[px, py] = [x, y]
  }
  const look = paintAttributes(fill, job).replaceAll('fill', 'stroke')
  return `<path d="${parts.join('')}" fill="none" ${look} stroke-width="${short(2 * r)}" stroke-linecap="round"/>\n`
}

/** Hundredths as the shortest number of wholes. */
const tight = (mm: number): string => short(mm, 2).replace(/^(-?)0\./, '$1.')

/** Thousandths of a unit, as short as they can be written. */
const tiny = (thousandths: number): string => short(thousandths / 1000).replace(/^(-?)0\./, '$1.')

/**
 * An outline as path data: each piece begins at a place of the page and goes on from point to point in steps, which are
 * those between the rounded points, so that nothing adds up.
 */
function pathData(outline: Outline, from?: number, to?: number): string {
  const parts: string[] = []
  let [px, py] = [0, 0]
  let last = ''
  const steps = (letter: string, numbers: number[]): void => {
    const points = numbers.map((n) => Math.round(1000 * n))
    const words = points.map((n, i) => tiny(n - (i % 2 ? py : px)))
    const text = words.map((word, i) => (i && !word.startsWith('-') ? ` ${word}` : word)).join('')
    const joint = letter === last && !text.startsWith('-') ? ' ' : ''
    parts.push(letter === last ? joint + text : letter + text)
    last = letter
    ;[px, py] = points.slice(-2)
  }
  const sink: OutlineSink = {
    moveTo(x, y) {
      parts.push(`M${short(x)} ${short(y)}`)
      last = ''
      ;[px, py] = [Math.round(1000 * x), Math.round(1000 * y)]
    },
    lineTo: (x, y) => steps('l', [x, y]),
    bezierCurveTo: (...n) => steps('c', n),
    closePath() {
      parts.push('Z')
      last = ''
    },
  }
  trace(outline, sink, from, to)
  return parts.join('')
}

function textXml(node: Text, job: Job): string {
  const turn = node.rotationDeg ? ` rotate(${short(node.rotationDeg)})` : ''
  const place = `transform="translate(${short(node.x)} ${short(node.y)})${turn}"`
  const looks = colourAttributes('fill', node.colour)
  const halo = node.halo
    ? `${colourAttributes('stroke', node.halo.colour)} stroke-width="${short(2 * node.halo.widthMm)}" stroke-linejoin="round" stroke-linecap="round" paint-order="stroke"`
    : ''
  if (job.text === 'outlines') {
    const parts: string[] = []
    traceGlyphs(job.fonts, node, {
      moveTo: (x, y) => parts.push(`M${short(x)} ${short(y)}`),
      lineTo: (x, y) => parts.push(`L${short(x)} ${short(y)}`),
      bezierCurveTo: (...n) => parts.push(`C${n.map((v) => short(v)).join(' ')}`),
      closePath: () => parts.push('Z'),
    })
    const data = parts.join('')
    const under = node.halo
      ? `<path d="${data}" fill="none" ${halo.replace(' paint-order="stroke"', '')}/>`
      : ''
    return `<g ${place}>${under}<path d="${data}" ${looks}/></g>\n`
  }
  for (const run of node.runs) job.files.set(run.file, node.font)
  const spacing = node.letterSpacingMm ? ` letter-spacing="${short(node.letterSpacingMm)}"` : ''
  const font = `font-family="${faceFiles(node.font)
    .map((file) => `'${faceName(file, node.font)}'`)
    .join(
      ', ',
    )}" font-size="${short(node.sizeMm)}" font-weight="${node.font.weight}" font-style="${node.font.italic ? 'italic' : 'normal'}"`
  if (node.letters) {
    // Each letter has its place: one that may not stand in the file leaves its place empty.
    const list = (of: (letter: NonNullable<Text['letters']>[number]) => number): string =>
      (node.letters ?? []).map((letter) => short(of(letter))).join(' ')
    return `<text x="${list(({ x }) => x)}" y="${list(({ y }) => y)}" rotate="${list(({ rotationDeg }) => rotationDeg)}" ${font} xml:space="preserve" ${looks} ${halo}>${escape(node.text, ' ')}</text>\n`
  }
  const words =
    node.runs.length === 1
      ? escape(node.text)
      : node.runs.map((run) => `<tspan x="${short(run.xMm)}">${escape(run.text)}</tspan>`).join('')
  return `<text ${place} ${font}${spacing} xml:space="preserve" ${looks} ${halo}>${words}</text>\n`
}

const faceName = (file: string, font: Text['font']): string =>
  fontFamilies[font.family].label + (file.includes('-latin-ext-') ? ' Extended' : '')

function fontFaces(job: Job): string {
  return [...job.files]
    .map(([file, font]) => {
      const data = base64(job.fontBytes(file))
      return `@font-face{font-family:'${faceName(file, font)}';font-weight:${font.weight};font-style:${font.italic ? 'italic' : 'normal'};src:url(data:font/woff;base64,${data}) format('woff')}`
    })
    .join('\n')
}

/** A picture that is used more than once is defined once, in a box of 1 × 1, and put in its places. */
function pictureXml({ box, bytes, mime }: Picture, job: Job): string {
  const known = job.shared.get(bytes)
  if (known === undefined) return imageXml({ box }, bytes, mime, true)
  let id = known
  if (id === null) {
    id = freshId(job, 'picture')
    const unit = imageXml({ box: { x: 0, y: 0, width: 1, height: 1 } }, bytes, mime, true)
    job.defs.push(`<symbol id="${id}" overflow="visible">${unit.trim()}</symbol>`)
    job.shared.set(bytes, id)
  }
  const place = [box.width, 0, 0, box.height, box.x, box.y].map((n) => short(n, 6)).join(' ')
  return `<use xlink:href="#${id}" transform="matrix(${place})"/>\n`
}

/** The pictures that a scene uses more than once. */
function sharedPictures(scene: Scene): Map<Uint8Array, null> {
  const counts = new Map<Uint8Array, number>()
  for (const node of walk(scene.children))
    if (node.type === 'picture') counts.set(node.bytes, (counts.get(node.bytes) ?? 0) + 1)
  return new Map([...counts].filter(([, n]) => n > 1).map(([bytes]) => [bytes, null]))
}

function imageXml(
  { box }: Pick<Picture | Raster, 'box'>,
  bytes: Uint8Array,
  mime: string,
  smooth: boolean,
): string {
  return `<image x="${short(box.x)}" y="${short(box.y)}" width="${short(box.width)}" height="${short(box.height)}" preserveAspectRatio="none"${smooth ? '' : ' style="image-rendering:pixelated"'} xlink:href="data:${mime};base64,${base64(bytes)}"/>\n`
}

function paintAttributes(paint: Exclude<Paint, Hatch> | null, job: Job): string {
  if (!paint) return 'fill="none"'
  if (paint.type === 'solid') return colourAttributes('fill', paint.colour)
  const id = freshId(job, paint.type)
  const stops = paint.stops
    .map((stop) => `<stop offset="${short(stop.offset, 4)}" ${colourAttributes('stop', stop.colour)}/>`)
    .join('')
  const place =
    paint.type === 'linear'
      ? `x1="${short(paint.from[0])}" y1="${short(paint.from[1])}" x2="${short(paint.to[0])}" y2="${short(paint.to[1])}"`
      : `cx="${short(paint.centre[0])}" cy="${short(paint.centre[1])}" r="${short(paint.radius)}"`
  job.defs.push(
    `<${paint.type}Gradient id="${id}" gradientUnits="userSpaceOnUse" ${place}>${stops}</${paint.type}Gradient>`,
  )
  return `fill="url(#${id})"`
}

type Hatch = Extract<Paint, { type: 'hatch' }>

/**
 * A hatch is written as real lines under a clip: vector editors treat fill patterns each in their own way.
 */
function hatchXml(node: Path, hatch: Hatch, job: Job): string {
  const box = outlineBox(node.outline)
  if (!box) return ''
  const clip = freshId(job, 'hatched')
  job.defs.push(
    `<clipPath id="${clip}"><path d="${pathData(node.outline)}"${node.fillRule === 'evenodd' ? ' clip-rule="evenodd"' : ''}/></clipPath>`,
  )
  const ground =
    hatch.background || node.features
      ? pathXml(
          {
            ...node,
            fill: hatch.background ? { type: 'solid', colour: hatch.background } : null,
            strokes: [],
          },
          job,
        )
      : ''
  const lines = `<g clip-path="url(#${clip})"><path d="${pathData(hatchLines(box, hatch))}" fill="none" ${colourAttributes('stroke', hatch.colour)} stroke-width="${short(hatch.widthMm)}" stroke-linecap="${hatchCap(hatch)}"/></g>\n`
  const outline = node.strokes
    .map((line) => `<path d="${pathData(node.outline)}" fill="none" ${strokeAttributes(line)}/>\n`)
    .join('')
  return ground + lines + outline
}

function strokeAttributes(line: Stroke | undefined): string {
  if (!line) return ''
  const dash = line.dashMm.length ? ` stroke-dasharray="${line.dashMm.map((n) => short(n)).join(' ')}"` : ''
  return `${colourAttributes('stroke', line.colour)} stroke-width="${short(line.widthMm, 4)}" stroke-linecap="${line.cap}" stroke-linejoin="${line.join}"${dash}`
}

function colourAttributes(role: 'fill' | 'stroke' | 'stop', colour: Colour): string {
  const { a } = channels(colour)
  const name = role === 'stop' ? 'stop-color' : role
  return `${name}="${colour.slice(0, 7)}"${a < 1 ? ` ${role}-opacity="${short(a)}"` : ''}`
}

/** An XML id made from a name: letters, digits, hyphens; a number is added where it is taken. */
function freshId(job: Job, name: string): string {
  const stem =
    name
      .normalize('NFD')
      .replace(/[\u0300-\u036f]/g, '')
      .replace(/[^A-Za-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'part'
  const base = /^[A-Za-z]/.test(stem) ? stem : `n-${stem}`
  let id = base
  for (let n = 2; job.ids.has(id); n++) id = `${base}-${n}`
  job.ids.add(id)
  return id
}

/** What XML 1.0 forbids: control characters but tab and line ends, halves of pairs, and two that are none. */
const forbidden = new RegExp(
  [
    '[\\u0000-\\u0008\\u000b\\u000c\\u000e-\\u001f\\ufffe\\uffff]',
    '[\\ud800-\\udbff](?![\\udc00-\\udfff])',
    '(?<![\\ud800-\\udbff])[\\udc00-\\udfff]',
  ].join('|'),
  'g',
)

/** Text as it may stand in the file; `instead` stands where a character may not. */
const escape = (text: string, instead = ''): string =>
  text
    .replace(forbidden, instead)
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')

const base64 = (bytes: Uint8Array): string =>
  Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('base64')
