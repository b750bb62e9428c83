import { group, translate, type Scene } from '@/core/scene/scene'
import { boxAround, boxAroundAll, type Frame } from './frame'
import type { PartBox } from './part'
import type { Part, Sheet } from './spec'

/**
 * Of a composed sheet some parts alone, on a page that is as large as they are together; null where none of them is
 * seen. `box` is what it takes up of the sheet. The scene has one layer for each part that is not hidden, in their
 * order.
 */
export function onlyParts(
  scene: Scene,
  sheet: Sheet,
  { ids, frameOf }: { ids: readonly string[]; frameOf: (part: Part) => Frame },
): { scene: Scene; box: PartBox } | null {
  const shown = sheet.parts.filter((part) => !part.hidden)
  const chosen = shown
    .map((part, i) => ({ part, node: scene.children[i] }))
    .filter(({ part }) => ids.includes(part.id))
  const box = boxAroundAll(chosen.map(({ part }) => boxAround(frameOf(part))))
  if (!box) return null
  const alone: Scene = {
    ...scene,
    widthMm: box.width,
    heightMm: box.height,
    title: `${scene.title}: ${chosen.map(({ part }) => part.name).join(', ')}`,
    children: chosen.map(({ node }, i) =>
      group(`chosen ${i + 1}`, [node], { transform: translate(-box.x, -box.y) }),
    ),
  }
  return { scene: alone, box }
}
