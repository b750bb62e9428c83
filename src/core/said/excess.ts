/** Files of our own are flat; what is nested deeper is nonsense, or meant to make a program fall over itself. */
export const maxDepth = 64
/** A list is as long as a column of a large table, at most. */
const mostInList = 200_000
/** Things in all: every part of the largest folio takes more room than this leaves it. */
const mostThings = 500_000

/**
 * What of a value that was sent is more than any file of ours holds, and where: `at sheets › 0 › parts, there are more
 * than 200,000`; null where it is within bounds. It is asked before a schema looks at it, which takes a while for each
 * thing that is none.
 */
export function excessOf(value: unknown): string | null {
  let things = 0
  const path: (string | number)[] = []
  const where = () => `at ${path.join(' › ') || 'the top'}`
  const looked = (one: object): string | null => {
    if (path.length > maxDepth) return `it is nested more than ${maxDepth} levels deep`
    if (++things > mostThings) return `there are more than ${mostThings.toLocaleString('en-GB')} things in it`
    const keys = Array.isArray(one) ? null : Object.keys(one)
    const count = keys ? keys.length : (one as unknown[]).length
    if (count > mostInList) return `${where()}, there are more than ${mostInList.toLocaleString('en-GB')}`
    for (let i = 0; i < count; i++) {
      const key = keys ? keys[i] : i
      const inside = (one as Record<string | number, unknown>)[key]
      if (typeof inside !== 'object' || inside === null) continue
      path.push(key)
      const words = looked(inside)
      if (words) return words
      path.pop()
    }
    return null
  }
  return typeof value === 'object' && value !== null ? looked(value) : null
}
