import { emptyBounds, isEmpty, takeIn, type Bounds } from './bounds'
import { outlineBox, type Box } from './outline'
import type { Node, Path, Text, Transform } from './scene'

/**
 * A box that holds everything a node paints, in the space that the node stands in, mm: strokes with their caps
 * and joins, letters with their accents and halo. It may be somewhat larger than what is seen; empty where
 * nothing is.
 */
export function extentOf(node: Node): Bounds {
  switch (node.type) {
    case 'path':
      return extentOfPath(node)
    case 'text':
      return extentOfText(node)
    case 'picture':
    case 'raster':
      return ofBox(node.box)
    default: {
      const inner = node.children.reduce((all, child) => union(all, extentOf(child)), emptyBounds())
      const clip = node.clip && outlineBox(node.clip)
      const seen = clip ? common(inner, ofBox(clip)) : inner
      return node.transform ? transformed(seen, node.transform) : seen
    }
  }
}

const ofBox = ({ x, y, width, height }: Box): Bounds => [x, y, x + width, y + height]

const union = (a: Bounds, b: Bounds): Bounds => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
]

function common(a: Bounds, b: Bounds): Bounds {
  const both: Bounds = [
    Math.max(a[0], b[0]),
    Math.max(a[1], b[1]),
    Math.min(a[2], b[2]),
    Math.min(a[3], b[3]),
  ]
  return both[2] >= both[0] && both[3] >= both[1] ? both : emptyBounds()
}

const grown = ([x0, y0, x1, y1]: Bounds, by: number): Bounds => [x0 - by, y0 - by, x1 + by, y1 + by]

/** A mitre reaches at most this many half widths beyond its corner (the limit that canvas and SVG begin with). */
const mitreLimit = 10

function extentOfPath({ outline, strokes }: Path): Bounds {
  const box = outlineBox(outline)
  if (!box) return emptyBounds()
  const reach = strokes.map(({ widthMm, cap, join }) => {
    const corner = join === 'miter' ? mitreLimit : 1
    return (widthMm / 2) * Math.max(corner, cap === 'square' ? Math.SQRT2 : 1)
  })
  return grown(ofBox(box), Math.max(0, ...reach))
}

function extentOfText({ x, y, rotationDeg, sizeMm, widthMm, halo, letters }: Text): Bounds {
  const room = 1.5 * sizeMm + (halo?.widthMm ?? 0)
  if (letters) {
    const places = letters.reduce((all, letter) => takeIn(all, [letter.x, letter.y]), emptyBounds())
    return isEmpty(places) ? places : grown(places, room)
  }
  const angle = (rotationDeg * Math.PI) / 180
  const end = [x + widthMm * Math.cos(angle), y + widthMm * Math.sin(angle)]
  return grown(takeIn(emptyBounds(), [x, y, ...end]), room)
}

function transformed([x0, y0, x1, y1]: Bounds, [a, b, c, d, e, f]: Transform): Bounds {
  if (!(x1 >= x0)) return emptyBounds()
  const corners = [x0, y0, x1, y0, x1, y1, x0, y1]
  const out = emptyBounds()
  for (let i = 0; i < corners.length; i += 2) {
    const [x, y] = [corners[i], corners[i + 1]]
    takeIn(out, [a * x + c * y + e, b * x + d * y + f])
  }
  return out
}
