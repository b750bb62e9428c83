import Flatbush from 'flatbush'
import RBush from 'rbush'
import { around, overlaps, within, type Box, type Candidate } from './candidate'

/** A label to be placed. Its candidates, the best first, are asked for once. */
export type Job = {
  candidates: () => Candidate[]
  /** Stands where it is, whatever it covers: it was put there by hand. */
  fixed: boolean
  /** The mark that it may cover, −1 for none. */
  ownMark: number
}

/** What became of a label: the candidate taken, or null with what stood in the way. */
export type Outcome = { candidate: Candidate | null; reason: 'no room' | 'in the way' | null }

type Item = { minX: number; minY: number; maxX: number; maxY: number; job: number }

/**
 * Takes labels in their order and puts each on its best free place: inside the window, clear of marks and of labels
 * that stand. A label without one may move a single other label to another free place of it. The same labels give the
 * same places.
 */
export function placeLabels(jobs: Job[], marks: Box[], window: { x: number; y: number; width: number; height: number }): Outcome[] {
  const obstacles = marks.length ? new Flatbush(marks.length) : null
  for (const [x0, y0, x1, y1] of marks) obstacles?.add(x0, y0, x1, y1)
  obstacles?.finish()
  const taken = new RBush<Item>()
  const items: Item[][] = jobs.map(() => [])
  const outcomes: Outcome[] = jobs.map(() => ({ candidate: null, reason: null }))
  const lists = new Map<number, Candidate[]>()

  const candidatesOf = (j: number): Candidate[] => {
    const list = lists.get(j) ?? jobs[j].candidates()
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
  const onPaper = (j: number, { boxes }: Candidate): boolean => within(around(boxes), window) && !boxes.some((box) => obstacles?.search(...box, (mark) => mark !== jobs[j].ownMark && overlaps(box, marks[mark])).length)
  /** Labels that a candidate would cover, or null where they are more than one. */
  const inTheWay = ({ boxes }: Candidate): number | null | 'many' => {
    let found: number | null = null
    for (const [minX, minY, maxX, maxY] of boxes)
      for (const { job } of taken.search({ minX, minY, maxX, maxY })) {
        if (found !== null && found !== job) return 'many'
        found = job
      }
    return found
  }

  jobs.forEach((job, j) => {
    if (job.fixed) put(j, candidatesOf(j)[0])
  })
  jobs.forEach((job, j) => {
    if (job.fixed) return
    const list = candidatesOf(j)
    const allowed = list.filter((candidate) => onPaper(j, candidate))
    const free = allowed.find((candidate) => inTheWay(candidate) === null)
    if (free) return put(j, free)
    for (const candidate of allowed) {
      const other = inTheWay(candidate)
      if (typeof other !== 'number' || jobs[other].fixed) continue
      const stood = outcomes[other].candidate
      lift(other)
      const elsewhere = candidatesOf(other).find((place) => place !== stood && onPaper(other, place) && inTheWay(place) === null && !place.boxes.some((a) => candidate.boxes.some((b) => overlaps(a, b))))
      if (elsewhere) {
        put(other, elsewhere)
        return put(j, candidate)
      }
      if (stood) put(other, stood)
    }
    outcomes[j] = { candidate: null, reason: list.length ? 'in the way' : 'no room' }
  })
  return outcomes
}
