import type { Part, PartGroupSpec, Sheet } from './spec'

/** The parts and groups of a sheet. */
export type Pile = Pick<Sheet, 'parts' | 'groups'>

/** A part, or a group with what it holds, from the bottom of the pile up. */
export type PileNode =
  { is: 'part'; part: Part } | { is: 'group'; group: PartGroupSpec; children: PileNode[] }

export const nodeId = (node: PileNode): string => (node.is === 'part' ? node.part.id : node.group.id)

export const partsIn = (node: PileNode): Part[] =>
  node.is === 'part' ? [node.part] : node.children.flatMap(partsIn)

/** The groups that a part lies in, the outermost first. A group that is not there, or lies in itself, ends them. */
export function groupsOver({ groups }: Pick<Pile, 'groups'>, groupId: string | null): PartGroupSpec[] {
  const over: PartGroupSpec[] = []
  let at = groups.find(({ id }) => id === groupId)
  while (at && !over.includes(at)) {
    over.unshift(at)
    const { parentId } = at
    at = groups.find(({ id }) => id === parentId)
  }
  return over
}

/** The pile as a tree. A group stands where its topmost part does. */
export function pileTree(pile: Pile): PileNode[] {
  const top: PileNode[] = []
  const made = new Map<string, PileNode & { is: 'group' }>()
  // From the top down, so that a group stands where its topmost part does.
  for (const part of [...pile.parts].reverse()) {
    let level = top
    for (const group of groupsOver(pile, part.groupId)) {
      let node = made.get(group.id)
      if (!node) {
        node = { is: 'group', group, children: [] }
        made.set(group.id, node)
        level.push(node)
      }
      level = node.children
    }
    level.push({ is: 'part', part })
  }
  const upward = (nodes: PileNode[]): PileNode[] =>
    [...nodes]
      .reverse()
      .map((node) => (node.is === 'group' ? { ...node, children: upward(node.children) } : node))
  return upward(top)
}

/**
 * What a part is taken hold of with: the outermost group around it within the group that was entered, or the part
 * alone. Null for a part outside the group that was entered.
 */
export function unitOf(
  pile: Pile,
  part: Part,
  enteredId: string | null,
): { id: string; parts: Part[] } | null {
  const over = groupsOver(pile, part.groupId)
  const from = enteredId === null ? 0 : over.findIndex(({ id }) => id === enteredId) + 1
  if (enteredId !== null && from === 0) return null
  const group = over.at(from)
  return group ? { id: group.id, parts: membersOf(pile, group.id) } : { id: part.id, parts: [part] }
}

/** All parts of a group, those of groups within it too. */
export const membersOf = (pile: Pile, groupId: string): Part[] =>
  pile.parts.filter((part) => groupsOver(pile, part.groupId).some(({ id }) => id === groupId))

/** What is selected as units: whole groups count as one. From the bottom of the pile up. */
export function unitsOf(pile: Pile, ids: readonly string[]): { id: string; parts: Part[] }[] {
  const chosen = new Set(ids)
  const within = (nodes: PileNode[]): { id: string; parts: Part[] }[] =>
    nodes.flatMap((node) => {
      const parts = partsIn(node)
      if (parts.every(({ id }) => chosen.has(id))) return [{ id: nodeId(node), parts }]
      return node.is === 'group' ? within(node.children) : []
    })
  return within(pileTree(pile))
}

/** Puts a tree back as the parts and groups of a sheet. Groups without parts are gone. */
function fromTree(nodes: PileNode[]): Pile {
  const parts: Part[] = []
  const groups: PartGroupSpec[] = []
  const take = (node: PileNode, parentId: string | null): void => {
    if (node.is === 'part') {
      parts.push(node.part.groupId === parentId ? node.part : { ...node.part, groupId: parentId })
      return
    }
    if (!partsIn(node).length) return
    groups.push(node.group.parentId === parentId ? node.group : { ...node.group, parentId })
    node.children.forEach((child) => take(child, node.group.id))
  }
  nodes.forEach((node) => take(node, null))
  return { parts, groups }
}

/** The innermost list of nodes that holds all of some parts, with the group whose list it is. */
function levelOf(nodes: PileNode[], ids: ReadonlySet<string>): PileNode[] {
  const holder = nodes.find(
    (node) => node.is === 'group' && [...ids].every((id) => partsIn(node).some((part) => part.id === id)),
  )
  const whole = holder && partsIn(holder).length === ids.size
  return holder?.is === 'group' && !whole ? levelOf(holder.children, ids) : nodes
}

const touched = (node: PileNode, ids: ReadonlySet<string>): boolean =>
  partsIn(node).some(({ id }) => ids.has(id))

/**
 * Puts some parts into a new group, where the topmost of them lies. Groups that are only partly chosen are left by
 * the parts that are.
 */
export function grouped(pile: Pile, ids: readonly string[], group: { id: string; name: string }): Pile {
  const chosen = new Set(ids)
  const taken: PileNode[] = []
  const tree = pileTree(pile)
  const level = levelOf(tree, chosen)
  const topmost = level.findLastIndex((node) => touched(node, chosen))
  if (topmost < 0) return pile
  // Within the level, chosen nodes go out whole, and chosen parts out of nodes that are not.
  const without = (nodes: PileNode[]): PileNode[] =>
    nodes.flatMap((node): PileNode[] => {
      if (partsIn(node).every(({ id }) => chosen.has(id))) {
        taken.push(node)
        return []
      }
      return node.is === 'group' ? [{ ...node, children: without(node.children) }] : [node]
    })
  const below = without(level.slice(0, topmost + 1))
  const made: PileNode = {
    is: 'group',
    group: { ...group, parentId: null },
    children: taken,
  }
  level.splice(0, topmost + 1, ...below, made)
  return fromTree(tree)
}

/** Takes groups apart; what they hold stays in its place. */
export function ungrouped(pile: Pile, groupIds: readonly string[]): Pile {
  const apart = (nodes: PileNode[]): PileNode[] =>
    nodes.flatMap((node): PileNode[] => {
      if (node.is === 'part') return [node]
      const children = apart(node.children)
      return groupIds.includes(node.group.id) ? children : [{ ...node, children }]
    })
  return fromTree(apart(pileTree(pile)))
}

/** Moves what is chosen by one step among its neighbours, or to the end: up is towards the reader. */
export function lifted(pile: Pile, ids: readonly string[], by: 'up' | 'down' | 'top' | 'bottom'): Pile {
  const chosen = new Set(ids)
  const tree = pileTree(pile)
  const level = levelOf(tree, chosen)
  const isChosen = (node: PileNode) => touched(node, chosen)
  const reordered = [...level]
  if (by === 'top' || by === 'bottom') {
    const [rest, ours] = [level.filter((node) => !isChosen(node)), level.filter(isChosen)]
    reordered.splice(0, Infinity, ...(by === 'top' ? [...rest, ...ours] : [...ours, ...rest]))
  } else {
    const step = by === 'up' ? 1 : -1
    const places = level.map((_, i) => i).filter((i) => isChosen(level[i]))
    if (by === 'up') places.reverse()
    let barrier = by === 'up' ? level.length : -1
    for (const from of places) {
      const to = from + step
      // What has reached the end stays, and with it what lies against it.
      if (to === barrier) barrier = from
      else [reordered[from], reordered[to]] = [reordered[to], reordered[from]]
    }
  }
  level.splice(0, level.length, ...reordered)
  return fromTree(tree)
}

/**
 * Puts a part or a whole group before or behind another in the pile, into the group that the other lies in; `above`
 * is towards the reader. A group is not put into itself.
 */
export function placedBeside(
  pile: Pile,
  id: string,
  { besideId, above }: { besideId: string; above: boolean },
): Pile {
  const tree = pileTree(pile)
  let moved: PileNode | null = null
  const without = (nodes: PileNode[]): PileNode[] =>
    nodes.flatMap((node): PileNode[] => {
      if (nodeId(node) === id) {
        moved = node
        return []
      }
      return node.is === 'group' ? [{ ...node, children: without(node.children) }] : [node]
    })
  const rest = without(tree)
  if (!moved) return pile
  let placed = false
  const put = (nodes: PileNode[], node: PileNode): PileNode[] =>
    nodes.flatMap((one): PileNode[] => {
      if (nodeId(one) === besideId) {
        placed = true
        return above ? [one, node] : [node, one]
      }
      return one.is === 'group' ? [{ ...one, children: put(one.children, node) }] : [one]
    })
  const result = put(rest, moved)
  return placed ? fromTree(result) : pile
}

/** The pile without some parts; groups that are empty then go too. */
export const withoutParts = (pile: Pile, ids: readonly string[]): Pile =>
  fromTree(pileTree({ groups: pile.groups, parts: pile.parts.filter(({ id }) => !ids.includes(id)) }))

/** The groups of which all is chosen, the outermost ones. */
export const wholeGroups = (pile: Pile, ids: readonly string[]): string[] =>
  unitsOf(pile, ids)
    .map(({ id }) => id)
    .filter((id) => pile.groups.some((group) => group.id === id))
