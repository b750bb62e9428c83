/** Lists longer than this are measured by a sample. */
const sampled = 200

/**
 * About how many bytes a value holds: typed arrays exactly, text by its letters, lists of thousands of
 * objects by a sample of them. What stands in a value several times counts once.
 */
export function bytesOf(value: unknown, seen = new Set<object>()): number {
  if (typeof value === 'string') return 2 * value.length
  if (typeof value !== 'object' || value === null) return 8
  if (seen.has(value)) return 8
  seen.add(value)
  if (ArrayBuffer.isView(value)) return once(value.buffer, seen)
  if (value instanceof ArrayBuffer) return value.byteLength
  if (Array.isArray(value)) return 16 + bytesOfList(value, seen)
  if (value instanceof Map) return 16 + bytesOfList([...value].flat(), seen)
  if (value instanceof Set) return 16 + bytesOfList([...value], seen)
  return 16 + bytesOfList(Object.values(value), seen)
}

const once = (buffer: ArrayBufferLike, seen: Set<object>): number => {
  if (seen.has(buffer)) return 8
  seen.add(buffer)
  return buffer.byteLength
}

function bytesOfList(list: unknown[], seen: Set<object>): number {
  const step = Math.max(1, Math.floor(list.length / sampled))
  let [bytes, count] = [0, 0]
  for (let i = 0; i < list.length; i += step, count++) bytes += 8 + bytesOf(list[i], seen)
  return count ? (bytes * list.length) / count : 0
}
