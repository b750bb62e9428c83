/** Numbered things by a key, the least first. */
export class Heap {
  private readonly things: number[] = []
  private readonly keys: number[] = []

  get size(): number {
    return this.things.length
  }

  push(thing: number, key: number): void {
    const { things, keys } = this
    let i = things.length
    while (i > 0) {
      const parent = (i - 1) >> 1
      if (keys[parent] <= key) break
      things[i] = things[parent]
      keys[i] = keys[parent]
      i = parent
    }
    things[i] = thing
    keys[i] = key
  }

  pop(): [thing: number, key: number] | null {
    const { things, keys } = this
    if (!things.length) return null
    const top: [number, number] = [things[0], keys[0]]
    const thing = things.pop() as number
    const key = keys.pop() as number
    const count = things.length
    if (!count) return top
    let i = 0
    for (;;) {
      let child = 2 * i + 1
      if (child >= count) break
      if (child + 1 < count && keys[child + 1] < keys[child]) child++
      if (keys[child] >= key) break
      things[i] = things[child]
      keys[i] = keys[child]
      i = child
    }
    things[i] = thing
    keys[i] = key
    return top
  }
}
