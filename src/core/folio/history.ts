import { applyPatches, enablePatches, produceWithPatches, type Draft, type Patch } from 'immer'
import type { Folio } from './schema'

enablePatches()

/** One edit with the patch that makes it and the patch that takes it back. */
export type Command = { name: string; patches: Patch[]; inverse: Patch[]; merge: string | null }

/** `done` and `undone` are stacks with the latest edit last. */
export type History = { folio: Folio; done: Command[]; undone: Command[] }

export const startHistory = (folio: Folio): History => ({ folio, done: [], undone: [] })

/** As many edits are kept as a day's work has. */
const depth = 500

/**
 * Makes an edit. Edits in a row with the same `merge` key (dragging a break, typing a word) become one step
 * of undo. An edit that changes nothing leaves the history as it is.
 */
export function edit(
  history: History,
  name: string,
  recipe: (draft: Draft<Folio>) => void,
  merge: string | null = null,
): History {
  const [folio, patches, inverse] = produceWithPatches(history.folio, recipe)
  if (!patches.length) return history
  const last = history.done.at(-1)
  const joined = merge !== null && last?.merge === merge && !history.undone.length
  const command: Command = joined
    ? joinedWith(last, { name, patches, inverse, merge })
    : { name, merge, patches, inverse }
  const done = joined ? [...history.done.slice(0, -1), command] : [...history.done.slice(1 - depth), command]
  return { folio, done, undone: [] }
}

/**
 * Two edits as one. Where both only put values in place of others, of each place the last value and the one
 * before the first are enough: a drag of any length is then as long as one of its steps.
 */
function joinedWith(last: Command, next: Command): Command {
  const both = [...last.patches, ...next.patches]
  if (!both.every(({ op }) => op === 'replace') || someWithinOthers(both))
    return { ...next, patches: both, inverse: [...next.inverse, ...last.inverse] }
  return {
    ...next,
    patches: [...byPlace(both).values()],
    inverse: [...byPlace([...next.inverse, ...last.inverse]).values()],
  }
}

const placeOf = ({ path }: Patch): string => JSON.stringify(path)

/** Of patches on one place, the one that is applied last. */
const byPlace = (patches: Patch[]): Map<string, Patch> =>
  new Map(patches.map((patch) => [placeOf(patch), patch]))

/** Whether a patch lies inside the value of another one, so that their order matters. */
function someWithinOthers(patches: Patch[]): boolean {
  const places = new Set(patches.map(placeOf))
  return patches.some(({ path }) =>
    path.some((_, length) => length > 0 && places.has(JSON.stringify(path.slice(0, length)))),
  )
}

/**
 * Changes the folio without a step of its own: for what is found out about it, not done to it. Undoing goes back
 * to what was before the last edit.
 */
export const amend = (history: History, recipe: (draft: Draft<Folio>) => void): History => ({
  ...history,
  folio: produceWithPatches(history.folio, recipe)[0],
})

export function undo(history: History): History {
  const command = history.done.at(-1)
  if (!command) return history
  return {
    folio: applyPatches(history.folio, command.inverse),
    done: history.done.slice(0, -1),
    undone: [...history.undone, command],
  }
}

export function redo(history: History): History {
  const command = history.undone.at(-1)
  if (!command) return history
  return {
    folio: applyPatches(history.folio, command.patches),
    done: [...history.done, { ...command, merge: null }],
    undone: history.undone.slice(0, -1),
  }
}

/** Ends a run of merged edits, so that the next one with the same key is a step of its own. */
export function seal(history: History): History {
  const last = history.done.at(-1)
  return last?.merge
    ? { ...history, done: [...history.done.slice(0, -1), { ...last, merge: null }] }
    : history
}
