import type { Node, Scene } from '@/core/scene/scene'

/** Every node of a scene changed on the way; null takes it away. */
export function spoil(scene: Scene, change: (node: Node) => Node | null): Scene {
  const through = (nodes: Node[]): Node[] =>
    nodes.flatMap((node) => {
      const changed = change(node)
      if (!changed) return []
      return changed.type === 'group' ? { ...changed, children: through(changed.children) } : changed
    })
  return { ...scene, children: through(scene.children) }
}
