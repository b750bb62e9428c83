import { LRUCache } from 'lru-cache'
import { numberOf } from '@/core/memory/memory'
import { needsCompositing, type Group, type Node, type Scene } from '@/core/scene/scene'
import { outlineBox } from '@/core/scene/outline'
import { drawScene, type DrawOptions } from './draw'
import type { Context, Drawable } from './surface'

type Picture = { canvas: Drawable; x: number; y: number; bytes: number }

/** Painted parts of sheets by what they were painted from, bounded in bytes of their pixels. */
export type PartPictures = LRUCache<string, Picture>

export const createPartPictures = (maxBytes = 192 * 2 ** 20): PartPictures =>
  new LRUCache<string, Picture>({
    maxSize: maxBytes,
    sizeCalculation: ({ bytes }) => Math.min(maxBytes, bytes),
  })

/** Parts with fewer nodes are painted as fast as their picture is put in place. */
const worthKeeping = 40

/**
 * Draws a scene whose children are the parts of a sheet. The map of a panel is painted into a picture of its
 * own, which is put in place again as long as the map is composed of the very same nodes: moving a legend
 * paints no district. It looks the same as what `drawScene` draws.
 */
export function drawSceneByParts(
  context: Context,
  scene: Scene,
  options: DrawOptions,
  pictures: PartPictures,
): void {
  drawScene(context, { ...scene, children: [] }, options)
  for (const part of scene.children) {
    const picture = pictureOf(part, scene, options, pictures)
    if (picture) context.drawImage(picture.canvas, picture.x, picture.y)
    const rest = picture && part.type === 'group' ? { ...part, children: part.children.slice(1) } : part
    drawScene(context, { ...scene, background: null, children: [rest] }, options)
  }
}

function pictureOf(part: Node, scene: Scene, options: DrawOptions, pictures: PartPictures): Picture | null {
  const [map] = part.type === 'group' ? part.children : []
  if (part.type !== 'group' || needsCompositing(part) || part.transform || map?.type !== 'group' || !map.clip)
    return null
  if (countTo(map, worthKeeping) < worthKeeping) return null
  const place = `${numberOf(map)} ${options.pixelsPerMm}`
  const known = pictures.get(place)
  if (known) return known
  const made = paint(map, scene, options)
  if (made) pictures.set(place, made)
  return made
}

/** The part of the map in whole pixels of the page, so that nothing is smoothed twice. */
function paint(map: Group, scene: Scene, options: DrawOptions): Picture | null {
  const box = map.clip && outlineBox(map.clip)
  if (!box) return null
  const scale = options.pixelsPerMm
  const [x, y] = [Math.floor(box.x * scale), Math.floor(box.y * scale)]
  const widthPx = Math.ceil((box.x + box.width) * scale) - x
  const heightPx = Math.ceil((box.y + box.height) * scale) - y
  if (!(widthPx > 0 && heightPx > 0)) return null
  const { canvas, context } = options.surface.createCanvas(widthPx, heightPx)
  drawScene(
    context,
    { ...scene, background: null, children: [map] },
    { ...options, widthPx, heightPx, offsetPx: [-x, -y] },
  )
  return { canvas, x, y, bytes: 4 * widthPx * heightPx }
}

/** How many nodes a group holds, counted no farther than `most`. */
function countTo(group: Group, most: number): number {
  let count = 0
  for (const node of group.children) {
    count += node.type === 'group' ? countTo(node, most - count) : pathsIn(node)
    if (count >= most) return most
  }
  return count
}

const pathsIn = (node: Exclude<Node, Group>): number =>
  node.type === 'path' && node.features ? Math.max(1, node.features.names.length) : 1
