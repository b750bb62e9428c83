import type { Steps } from '@/core/grid/steps'

/** Long work goes on for so long before other questions are heard, ms. */
const sliceMs = 30

export type Watching = { tell?: (share: number) => void; isDropped: () => boolean }

let before: Promise<unknown> = Promise.resolve()

/**
 * Long work done in pieces, with other questions heard in between. One piece of work follows the other, and says only
 * when its turn comes what is left to do: what two wait for is made once.
 * @param steps what is to be done; null where all is at hand
 * @returns whether it was done; false where it was dropped
 */
export async function inPieces(steps: () => Steps<void> | null, watching: Watching): Promise<boolean> {
  // Whoever needs nothing waits for nobody.
  if (!steps()) return true
  const done = before.then(() => goOn(steps, watching))
  before = done.catch(() => undefined)
  return done
}

async function goOn(make: () => Steps<void> | null, { tell, isDropped }: Watching): Promise<boolean> {
  if (isDropped()) return false
  const steps = make()
  if (!steps) return true
  let since = performance.now()
  for (let step = steps.next(); !step.done; step = steps.next()) {
    if (performance.now() - since < sliceMs) continue
    tell?.(step.value)
    await new Promise((resolve) => setTimeout(resolve, 0))
    if (isDropped()) return false
    since = performance.now()
  }
  return true
}
