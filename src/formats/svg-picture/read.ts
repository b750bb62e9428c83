import type { Element as XmlElement, Node as XmlNode } from '@xmldom/xmldom'
import { SVGPathData } from 'svg-pathdata'
import { normalised, pathData, type SymbolPicture } from '@/core/kinds/marks/pictures'
import type { Transform } from '@/core/scene/scene'
import { rootOf } from '../drawing/root'
import { matrixOf, times } from '../drawing/transform'
import { ImportError } from '../import-error'

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
  const walk = (node: XmlNode, matrix: Transform, filled: boolean): void => {
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
