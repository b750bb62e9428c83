import { overlaps } from '@/core/scene/bounds'
import { boundsOf, boxAround, type Frame } from './frame'
import { coversOthers, type PartBox } from './part'
import type { Part, Sheet } from './spec'

const stepMm = 4

/**
 * Where a part of a size fits onto a sheet: the free place within the margins that is nearest to the one wished
 * for. Where the page is full, parts may lie over panels, as legends do; where even that finds no room, it is the
 * place wished for, moved aside until it covers no part wholly.
 */
export function freePlace(
  sheet: Sheet,
  wished: PartBox,
  frameOf: (part: Part) => Frame = (part) => part,
): PartBox {
  // What is so pale that labels may lie under it is not in the way either.
  const shown = sheet.parts.filter((part) => !part.hidden && coversOthers(part))
  const places = placesWithin(sheet, wished)
  for (const inTheWay of [shown, shown.filter(({ type }) => type !== 'panel')]) {
    const bounds = inTheWay.map((part) => boundsOf(frameOf(part), 1))
    const free = places.find(
      (place) => !bounds.some((other) => overlaps(other, boundsOf({ box: place, rotationDeg: 0 }))),
    )
    if (free) return free
  }
  return aside(shown.map(boxAround), wished)
}

/** Places on a grid within the margins, the nearest to the wished one first. */
function placesWithin({ page, margins }: Sheet, wished: PartBox): PartBox[] {
  const [right, bottom] = [page.widthMm - margins.right, page.heightMm - margins.bottom]
  const places: PartBox[] = [wished]
  for (let y = margins.top; y + wished.height <= bottom + 1e-9; y += stepMm)
    for (let x = margins.left; x + wished.width <= right + 1e-9; x += stepMm) places.push({ ...wished, x, y })
  const far = ({ x, y }: PartBox): number => Math.hypot(x - wished.x, y - wished.y)
  return places.sort((a, b) => far(a) - far(b))
}

function aside(taken: PartBox[], wished: PartBox): PartBox {
  let place = wished
  while (taken.some(({ x, y }) => Math.abs(x - place.x) < 1 && Math.abs(y - place.y) < 1))
    place = { ...place, x: place.x + stepMm, y: place.y + stepMm }
  return place
}
