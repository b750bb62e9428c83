import { SVGPathData } from 'svg-pathdata'
import { z } from 'zod'
import type { Outline, Verb } from '@/core/scene/outline'
import { createMemory } from '@/core/memory/memory'
import { boundsOf } from '@/core/scene/bounds'

/**
 * Pictures that ship, as SVG path data in a square of 24 units; where subpaths overlap, the inner one is a
 * hole.
 */
export const pictureSet = {
  book: {
    label: 'book',
    d: 'M2 5C5 3.4 9 3.4 11.4 5.4V20C9 18 5 18 2 19.6ZM22 5C19 3.4 15 3.4 12.6 5.4V20C15 18 19 18 22 19.6Z',
  },
  house: { label: 'house', d: 'M12 3L22 12H19V21H14V15H10V21H5V12H2Z' },
  person: {
    label: 'person',
    d: 'M12 2A3.6 3.6 0 1 1 12 9.2A3.6 3.6 0 1 1 12 2ZM5 22V17C5 13 8 10.8 12 10.8S19 13 19 17V22Z',
  },
  tree: { label: 'tree', d: 'M12 2L19 11H15.5L20.5 17H13.5V22H10.5V17H3.5L8.5 11H5Z' },
  star: {
    label: 'star',
    d: 'M12 2L14.9 8.9L22.3 9.5L16.7 14.4L18.4 21.6L12 17.8L5.6 21.6L7.3 14.4L1.7 9.5L9.1 8.9Z',
  },
  cross: { label: 'cross', d: 'M9 2H15V9H22V15H15V22H9V15H2V9H9Z' },
  flag: { label: 'flag', d: 'M4 2H6V3H20L16.5 7.5L20 12H6V22H4Z' },
  works: {
    label: 'works',
    d: 'M3 21V11L9 14.6V11L15 14.6V3H20V21ZM6 17V19H8V17ZM10.5 17V19H12.5V17ZM15 17V19H17V17Z',
  },
  boat: { label: 'boat', d: 'M2.5 14H21.5L18.5 20.5H5.5ZM11 2H12.4L19.5 12.2H11ZM9.6 5V12.2H4.8Z' },
  van: {
    label: 'van',
    d: 'M1 5.5H14V17H9.2A3.2 3.2 0 0 0 2.9 17H1ZM15 8.5H19.4L23 12.6V17H21.2A3.2 3.2 0 0 0 15 16.4ZM6 15.2A2.2 2.2 0 1 1 6 19.6A2.2 2.2 0 1 1 6 15.2ZM18.1 15.2A2.2 2.2 0 1 1 18.1 19.6A2.2 2.2 0 1 1 18.1 15.2Z',
  },
  cup: {
    label: 'cup',
    d: 'M3 4H17V6H18.6C21 6 22.4 7.6 22.4 9.8S20.8 14 18.4 14H16.4C15.6 16.6 13.4 18 10 18C5.6 18 3 15.6 3 11.4ZM17 8V12H18.4C19.7 12 20.4 11 20.4 9.9S19.8 8 18.6 8ZM2 20H18V22H2Z',
  },
  tower: { label: 'tower', d: 'M9 2H15V6H16.4V8H15.2L17.4 22H6.6L8.8 8H7.6V6H9ZM10.6 11V14H13.4V11Z' },
  summit: { label: 'summit', d: 'M1 20.5L8.6 5.5L12.4 12.4L14.8 8.6L23 20.5Z' },
  leaf: { label: 'leaf', d: 'M3.6 21.4L5.2 18.2C3 10.4 8.2 3.6 20.6 2.8C21.6 14.4 15.2 20.6 7 18.8L5.2 22Z' },
} as const satisfies Record<string, { label: string; d: string }>

export type PictureId = keyof typeof pictureSet
export const pictureIds = Object.keys(pictureSet) as PictureId[]

function drawable(path: string): boolean {
  try {
    normalised(path, false)
    return true
  } catch {
    return false
  }
}

/**
 * A picture that symbols are made of: one that ships, or the cartographer's own as path data with its middle
 * at 0, 0 and a height of 1.
 */
export const SymbolPicture = z.discriminatedUnion('from', [
  z.object({ from: z.literal('set'), id: z.enum(pictureIds as [PictureId, ...PictureId[]]) }),
  z.object({
    from: z.literal('own'),
    name: z.string(),
    path: z.string().max(200_000).refine(drawable, 'not a picture that can be drawn'),
    evenOdd: z.boolean(),
  }),
])
export type SymbolPicture = z.infer<typeof SymbolPicture>

export const pictureLabel = (picture: SymbolPicture): string =>
  picture.from === 'set' ? pictureSet[picture.id].label : picture.name

/** An outline with its middle at 0, 0, one unit high and `width` wide. */
export type UnitOutline = {
  verbs: Verb[]
  coords: Float64Array
  width: number
  fillRule: 'nonzero' | 'evenodd'
}

const remember = createMemory<object, UnitOutline>('pictures', { maxBytes: 8 * 2 ** 20 })

export function unitOutline(picture: SymbolPicture): UnitOutline {
  return remember(pictureSet, JSON.stringify(picture), () =>
    picture.from === 'set'
      ? normalised(pictureSet[picture.id].d, true)
      : normalised(picture.path, picture.evenOdd),
  )
}

/**
 * SVG path data brought to a height of 1 around its middle, in lines and cubic curves.
 * @throws Error where the data cannot be read or have no extent.
 */
export function normalised(d: string, evenOdd: boolean): UnitOutline {
  const verbs: Verb[] = []
  const coords: number[] = []
  let [x, y] = [0, 0]
  for (const command of new SVGPathData(d).toAbs().normalizeHVZ(false).normalizeST().aToC().commands) {
    if (command.type === SVGPathData.MOVE_TO || command.type === SVGPathData.LINE_TO) {
      verbs.push(command.type === SVGPathData.MOVE_TO ? 'M' : 'L')
      coords.push(command.x, command.y)
    } else if (command.type === SVGPathData.CURVE_TO) {
      verbs.push('C')
      coords.push(command.x1, command.y1, command.x2, command.y2, command.x, command.y)
    } else if (command.type === SVGPathData.QUAD_TO) {
      const { x1, y1 } = command
      verbs.push('C')
      coords.push(
        x + (2 / 3) * (x1 - x),
        y + (2 / 3) * (y1 - y),
        command.x + (2 / 3) * (x1 - command.x),
        command.y + (2 / 3) * (y1 - command.y),
        command.x,
        command.y,
      )
    } else {
      verbs.push('Z')
      continue
    }
    ;[x, y] = [command.x, command.y]
  }
  const [x0, y0, x1, y1] = boundsOf(coords)
  const height = y1 - y0
  if (!(height > 0) || !(x1 > x0)) throw new Error('The picture has no extent.')
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2]
  return {
    verbs,
    coords: Float64Array.from(coords, (value, i) => (value - (i % 2 ? cy : cx)) / height),
    width: (x1 - x0) / height,
    fillRule: evenOdd ? 'evenodd' : 'nonzero',
  }
}

/** Path data of an outline, for keeping it. */
export function pathData({ verbs, coords }: Pick<UnitOutline, 'verbs' | 'coords'>): string {
  let i = 0
  const take = (n: number): string =>
    Array.from({ length: n }, () => Number(coords[i++].toFixed(4))).join(' ')
  return verbs.map((verb) => (verb === 'Z' ? 'Z' : `${verb}${take(verb === 'C' ? 6 : 2)}`)).join('')
}

/** A picture of a height with its middle at a place. */
export function pictureOutline(picture: SymbolPicture, x: number, y: number, heightMm: number): Outline {
  const { verbs, coords } = unitOutline(picture)
  return { kind: 'curves', verbs, coords: coords.map((value, i) => value * heightMm + (i % 2 ? y : x)) }
}
