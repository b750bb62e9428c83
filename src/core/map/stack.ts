import type { Layer, LayerGroup } from './spec'

type Stack = { layers: Layer[]; groups: LayerGroup[] }

/**
 * Groups without layers are gone, and layers whose group is gone stand by themselves. The stack is changed in
 * place.
 */
function tidy(stack: Stack): void {
  stack.groups = stack.groups.filter(({ id }) => stack.layers.some(({ groupId }) => groupId === id))
  for (const layer of stack.layers)
    if (layer.groupId !== null && !stack.groups.some(({ id }) => id === layer.groupId)) layer.groupId = null
}

/**
 * Puts a layer where another one stands, above it when it comes from below; it joins the group of that one.
 * The stack is changed in place.
 */
export function moveOnto(stack: Stack, id: string, targetId: string): void {
  const from = stack.layers.findIndex((layer) => layer.id === id)
  const to = stack.layers.findIndex((layer) => layer.id === targetId)
  if (from < 0 || to < 0 || from === to) return
  const { groupId } = stack.layers[to]
  const [layer] = stack.layers.splice(from, 1)
  layer.groupId = groupId
  stack.layers.splice(to, 0, layer)
  tidy(stack)
}

/**
 * Moves a layer by one place up (−1) or down (1): into a group that it meets, through it, and out of it
 * again.
 */
export function moveBy(stack: Stack, id: string, step: -1 | 1): void {
  const at = stack.layers.findIndex((layer) => layer.id === id)
  const layer = stack.layers[at]
  const next = stack.layers[at + step]
  if (!layer) return
  if (next && next.groupId !== layer.groupId && next.groupId !== null && layer.groupId === null)
    layer.groupId = next.groupId
  else if (layer.groupId !== null && next?.groupId !== layer.groupId) layer.groupId = null
  else if (next) {
    stack.layers.splice(at, 1)
    stack.layers.splice(at + step, 0, layer)
  }
  tidy(stack)
}

/** Puts a layer into a group, at its foot, or out of it, beneath it. */
export function putIntoGroup(stack: Stack, id: string, groupId: string | null): void {
  const at = stack.layers.findIndex((layer) => layer.id === id)
  const layer = stack.layers[at]
  if (!layer || layer.groupId === groupId) return
  const around = groupId ?? layer.groupId
  stack.layers.splice(at, 1)
  const last = stack.layers.findLastIndex((other) => other.groupId === around)
  layer.groupId = groupId
  stack.layers.splice(last < 0 ? at : last + 1, 0, layer)
  tidy(stack)
}

/** Takes a layer away. */
export function removeLayer(stack: Stack, id: string): void {
  stack.layers = stack.layers.filter((layer) => layer.id !== id)
  tidy(stack)
}
