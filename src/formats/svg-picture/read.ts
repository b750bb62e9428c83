import { DOMParser, type Element as XmlElement, type Node as XmlNode } from '@xmldom/xmldom'
import { SVGPathData } from 'svg-pathdata'
import { normalised, pathData, type SymbolPicture } from '@/core/kinds/marks/pictures'
import { ImportError } from '../import-error'

type Matrix = [a: number, b: number, c: number, d: number, e: number, f: number]

const times = ([a, b, c, d, e, f]: Matrix, [g, h, i, j, k, l]: Matrix): Matrix => [
  a * g + c * h,
  b * g + d * h,
  a * i + c * j,
  b * i + d * j,
  a * k + c * l + e,
  b * k + d * l + f,
]

const radians = (deg: number): number => (deg * Math.PI) / 180

function turned(deg: number): Matrix {
  const [cos, sin] = [Math.cos(radians(deg)), Math.sin(radians(deg))]
  return [cos, sin, -sin, cos, 0, 0]
}

/** One function of a `transform` attribute with its numbers. */
function transformStep(name: string, n: number[]): Matrix {
  switch (name) {
    case 'matrix':
      return n as Matrix
    case 'translate':
      return [1, 0, 0, 1, n[0], n[1] ?? 0]
    case 'scale':
      return [n[0], 0, 0, n[1] ?? n[0], 0, 0]
    case 'rotate':
      if (n.length === 1) return turned(n[0])
      return times(times([1, 0, 0, 1, n[1], n[2]], turned(n[0])), [1, 0, 0, 1, -n[1], -n[2]])
    case 'skewX':
      return [1, 0, Math.tan(radians(n[0])), 1, 0, 0]
    default:
      return [1, Math.tan(radians(n[0])), 0, 1, 0, 0]
  }
}

/** The `transform` attribute as one matrix (SVG 1.1, section 7.6). */
export function matrixOf(text: string): Matrix {
  let matrix: Matrix = [1, 0, 0, 1, 0, 0]
  for (const [, name, args] of text.matchAll(/(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/g)) {
    const n = args
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number)
    matrix = times(matrix, transformStep(name, n))
  }
  return matrix
}

/** Path data of a filled element; null for anything else. */
function dataOf(element: XmlElement): string | null {
  const number = (name: string): number => Number.parseFloat(element.getAttribute(name) ?? '0') || 0
  const ellipse = (cx: number, cy: number, rx: number, ry: number): string =>
    `M${cx - rx} ${cy}A${rx} ${ry} 0 1 1 ${cx + rx} ${cy}A${rx} ${ry} 0 1 1 ${cx - rx} ${cy}Z`
  switch (element.localName) {
    case 'path':
      return element.getAttribute('d')
    case 'rect':
      return `M${number('x')} ${number('y')}h${number('width')}v${number('height')}h${-number('width')}Z`
    case 'circle':
      return ellipse(number('cx'), number('cy'), number('r'), number('r'))
    case 'ellipse':
      return ellipse(number('cx'), number('cy'), number('rx'), number('ry'))
    case 'polygon':
    case 'polyline':
      return `M${element.getAttribute('points') ?? ''}Z`
    default:
      return null
  }
}

/** The outermost element; null for what is not well formed. */
function rootOf(text: string): XmlElement | null {
  let broken = false
  try {
    const { documentElement } = new DOMParser({
      onError: (level) => void (broken ||= level !== 'warning'),
    }).parseFromString(text, 'image/svg+xml')
    return broken ? null : documentElement
  } catch {
    return null
  }
}

const passed = new Set([
  'defs',
  'clipPath',
  'mask',
  'symbol',
  'pattern',
  'marker',
  'title',
  'desc',
  'metadata',
  'style',
  'script',
])

/**
 * Reads an SVG picture as one silhouette: all its filled shapes together, brought to a height of 1. Colours
 * are those of the symbols; lines without a fill, text and images are passed over.
 * @throws ImportError saying what is wrong with it.
 */
export function readPicture(text: string, fileName: string): SymbolPicture {
  const root = rootOf(text)
  if (root?.localName !== 'svg') throw new ImportError(`${fileName} is no SVG picture.`)
  const parts: string[] = []
  let evenOdd = false
  const walk = (node: XmlNode, matrix: Matrix, filled: boolean): void => {
    if (node.nodeType !== 1) return
    const element = node as XmlElement
    if (passed.has(element.localName ?? '')) return
    const style = element.getAttribute('style') ?? ''
    const said = (name: string): string | null =>
      new RegExp(`(?:^|;)\\s*${name}\\s*:\\s*([^;]+)`).exec(style)?.[1]?.trim() ?? element.getAttribute(name)
    if (said('display') === 'none') return
    const fill = said('fill')
    const own = fill === null || fill === '' ? filled : fill !== 'none'
    if (said('fill-rule') === 'evenodd') evenOdd = true
    const here = times(matrix, matrixOf(element.getAttribute('transform') ?? ''))
    const data = own ? dataOf(element) : null
    if (data)
      parts.push(
        new SVGPathData(data)
          .toAbs()
          .normalizeHVZ(false)
          .normalizeST()
          .aToC()
          .matrix(...here)
          .encode(),
      )
    for (let child = element.firstChild; child; child = child.nextSibling) walk(child, here, own)
  }
  try {
    walk(root, [1, 0, 0, 1, 0, 0], true)
    if (!parts.length)
      throw new ImportError(`${fileName} has no filled shapes. Turn its lines into outlines first.`)
    return {
      from: 'own',
      name: fileName.replace(/\.svg$/i, ''),
      path: pathData(normalised(parts.join(''), evenOdd)),
      evenOdd,
    }
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      `${fileName} cannot be used as a symbol: ${error instanceof Error ? error.message : String(error)}`,
    )
  }
}
