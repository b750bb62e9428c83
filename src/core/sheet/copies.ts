import type { PartRefs, Renamed } from './part'
import { membersOf, type Pile } from './pile'
import { partTypeOf } from './registry'
import type { Part } from './spec'

const noNames: Renamed = { maps: new Map(), parts: new Map(), datasets: new Map(), pictures: new Map() }

/** Settings that lean on other things. */
export const remapped = (part: Part, ids: Partial<Renamed>): Part => {
  const { remap } = partTypeOf(part.type)
  return { ...part, settings: remap(part.settings, { ...noNames, ...ids }) } as Part
}

/**
 * Copies of some parts of a pile with ids of their own. Groups that are copied whole are groups again; a part that was
 * copied without the rest of its group stands alone. What leaned on another part that is copied too leans on its
 * copy. `newId` hands out ids.
 */
export function copiesOf(pile: Pile, chosen: readonly string[], newId: () => string): Pile {
  const ids = new Map(chosen.map((id) => [id, newId()]))
  const whole = pile.groups.filter(({ id }) => {
    const members = membersOf(pile, id)
    return members.length > 0 && members.every((part) => ids.has(part.id))
  })
  const groupIds = new Map(whole.map(({ id }) => [id, newId()]))
  const newGroup = (id: string | null): string | null => (id === null ? null : (groupIds.get(id) ?? null))
  return {
    parts: pile.parts.flatMap((part) => {
      const id = ids.get(part.id)
      if (id === undefined) return []
      return [{ ...remapped(structuredClone(part), { parts: ids }), id, groupId: newGroup(part.groupId) }]
    }),
    groups: whole.map((group) => ({
      ...group,
      id: groupIds.get(group.id) ?? group.id,
      parentId: newGroup(group.parentId),
    })),
  }
}

/** All that some parts lean on, each once. */
export function refsOf(parts: readonly Part[]): PartRefs {
  const all = parts.map((part) => partTypeOf(part.type).refs(part.settings))
  const once = (key: keyof PartRefs) => [...new Set(all.flatMap((refs) => refs[key]))]
  return {
    maps: once('maps'),
    parts: once('parts'),
    datasets: once('datasets'),
    pictures: once('pictures'),
  }
}
