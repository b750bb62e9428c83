/** Documents are flat; what is nested deeper is nonsense, or meant to make a program fall over itself. */
export const maxDepth = 64

/** Whether brackets in a JSON text are nested deeper than any document of ours. */
export function isTooDeep(bytes: Uint8Array): boolean {
  let [depth, inText] = [0, false]
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (inText) {
      if (byte === 0x5c) i++
      else if (byte === 0x22) inText = false
    } else if (byte === 0x22) inText = true
    else if (byte === 0x5b || byte === 0x7b) {
      if (++depth > maxDepth) return true
    } else if (byte === 0x5d || byte === 0x7d) depth--
  }
  return false
}
