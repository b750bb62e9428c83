/**
 * What was made from an object, by everything else that it depends on: kept as long as the object lives, the
 * last `most` keys of each.
 */
export function keyedMemory<Owner extends object, Made>(
  most: number,
): (owner: Owner, key: string, make: () => Made) => Made {
  const memory = new WeakMap<Owner, Map<string, Made>>()
  return (owner, key, make) => {
    const known = memory.get(owner) ?? new Map<string, Made>()
    memory.set(owner, known)
    const value = known.get(key)
    if (value !== undefined) return value
    const made = make()
    if (known.size >= most) known.clear()
    known.set(key, made)
    return made
  }
}
