/** Long work in pieces: yields how much of it is done (0 to 1) and returns what it made. */
export type Steps<Made> = Generator<number, Made, void>

/** Does long work in one go. */
export function drain<Made>(steps: Steps<Made>): Made {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** One piece of work as a part of a longer one, from one share of it to another. */
export function* within<Made>(steps: Steps<Made>, from: number, to: number): Steps<Made> {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    yield from + (to - from) * step.value
  }
}

/** Counts work; `due` says, for some more of it, whether it is time to tell how far it is. */
export function milestones(every: number): { done: number; due: (more: number) => boolean } {
  const told = {
    done: 0,
    due(more: number) {
      const before = Math.floor(told.done / every)
      told.done += more
      return Math.floor(told.done / every) > before
    },
  }
  return told
}
