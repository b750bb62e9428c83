import Flatbush from 'flatbush'
import RBush from 'rbush'
import type { Bounds } from '@/core/scene/bounds'
import { overlaps } from '@/core/scene/bounds'
import { around, within, type Candidate } from './candidate'

/** A label to be placed. Its candidates, the best first, are asked for one by one and once only. */
export type Job = {
  candidates: () => Iterable<Candidate>
  /** Stands where it is, whatever it covers: it was put there by hand. */
  fixed: boolean
  /** The mark that it may cover, −1 for none. */
  ownMark: number
}

/** What became of a label: the candidate taken, or null with what stood in the way. */
export type Outcome = { candidate: Candidate | null; reason: 'no room' | 'in the way' | null }

type Item = { minX: number; minY: number; maxX: number; maxY: number; job: number }

type Candidates = Iterable<Candidate>

/** What comes from an iterable, kept for the next time; only as much of it is made as is asked for. */
function remembered(from: Iterable<Candidate>): Candidates {
  if (Array.isArray(from)) return from as Candidate[]
  const made: Candidate[] = []
  const source = from[Symbol.iterator]()
  let ended = false
  return {
    *[Symbol.iterator]() {
      for (let i = 0; ; i++) {
        if (i === made.length && !ended) {
          const next = source.next()
          if (next.done) ended = true
          else made.push(next.value)
        }
        if (i >= made.length) return
        yield made[i]
      }
    },
  }
}

function firstOf(candidates: Candidates, fits: (candidate: Candidate) => boolean): Candidate | null {
  for (const candidate of candidates) if (fits(candidate)) return candidate
  return null
}

/**
 * Takes labels in their order and puts each on its best free place: inside the window, clear of marks and of
 * labels that stand. A label without one may move a single other label to another free place of it. The same
 * labels give the same places.
 */
export function placeLabels(
  jobs: Job[],
  marks: Bounds[],
  window: { x: number; y: number; width: number; height: number },
): Outcome[] {
  const obstacles = marks.length ? new Flatbush(marks.length) : null
  for (const [x0, y0, x1, y1] of marks) obstacles?.add(x0, y0, x1, y1)
  obstacles?.finish()
  const taken = new RBush<Item>()
  const items: Item[][] = jobs.map(() => [])
  const outcomes: Outcome[] = jobs.map(() => ({ candidate: null, reason: null }))
  const lists = new Map<number, Candidates>()

  const candidatesOf = (j: number): Candidates => {
    const list = lists.get(j) ?? remembered(jobs[j].candidates())
    lists.set(j, list)
    return list
  }
  const put = (j: number, candidate: Candidate): void => {
    outcomes[j] = { candidate, reason: null }
    items[j] = candidate.boxes.map(([minX, minY, maxX, maxY]) => ({ minX, minY, maxX, maxY, job: j }))
    for (const item of items[j]) taken.insert(item)
  }
  const lift = (j: number): void => {
    for (const item of items[j]) taken.remove(item)
    items[j] = []
  }
  const onPaper = (j: number, { boxes }: Candidate): boolean =>
    within(around(boxes), window) &&
    !boxes.some(
      (box) =>
        obstacles?.search(...box, (mark) => mark !== jobs[j].ownMark && overlaps(box, marks[mark])).length,
    )
  /** Labels that a candidate would cover, or null where they are more than one. */
  const inTheWay = ({ boxes }: Candidate): number | null | 'many' => {
    let blocker: number | null = null
    for (const [minX, minY, maxX, maxY] of boxes)
      for (const { job } of taken.search({ minX, minY, maxX, maxY })) {
        if (blocker !== null && blocker !== job) return 'many'
        blocker = job
      }
    return blocker
  }

  jobs.forEach((job, j) => {
    if (!job.fixed) return
    const [only] = candidatesOf(j)
    if (only) put(j, only)
  })
  jobs.forEach((job, j) => {
    if (job.fixed) return
    const allowed: Candidate[] = []
    let any = false
    for (const candidate of candidatesOf(j)) {
      any = true
      if (!onPaper(j, candidate)) continue
      if (inTheWay(candidate) === null) return put(j, candidate)
      allowed.push(candidate)
    }
    for (const candidate of allowed) {
      const other = inTheWay(candidate)
      if (typeof other !== 'number' || jobs[other].fixed) continue
      const stood = outcomes[other].candidate
      lift(other)
      const elsewhere = firstOf(
        candidatesOf(other),
        (place) =>
          place !== stood &&
          onPaper(other, place) &&
          inTheWay(place) === null &&
          !place.boxes.some((a) => candidate.boxes.some((b) => overlaps(a, b))),
      )
      if (elsewhere) {
        put(other, elsewhere)
        return put(j, candidate)
      }
      if (stood) put(other, stood)
    }
    outcomes[j] = { candidate: null, reason: any ? 'in the way' : 'no room' }
  })
  return outcomes
}
