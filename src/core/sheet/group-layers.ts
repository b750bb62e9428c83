import { group, type Node, type Scene } from '@/core/scene/scene'
import { groupsOver } from './pile'
import type { Sheet } from './spec'

/**
 * A composed sheet with the layers of its parts put together as the parts are grouped, group within group, so that
 * a file has a layer for each. The order of drawing stays as it is, whatever the groups say.
 */
export function inGroupLayers(scene: Scene, { parts, groups }: Pick<Sheet, 'parts' | 'groups'>): Scene {
  const shown = parts.filter(({ hidden }) => !hidden)
  const top: Node[] = []
  let open: { id: string; children: Node[] }[] = []
  scene.children.forEach((node, i) => {
    const chain = groupsOver({ groups }, shown[i]?.groupId ?? null)
    let same = 0
    while (same < chain.length && open[same]?.id === chain[same].id) same++
    open = open.slice(0, same)
    for (const { id, name } of chain.slice(same)) {
      const children: Node[] = []
      const into = open.length ? open[open.length - 1].children : top
      into.push(group(`group ${id}`, children, { name, layer: true }))
      open.push({ id, children })
    }
    const into = open.length ? open[open.length - 1].children : top
    into.push(node)
  })
  return { ...scene, children: top }
}
