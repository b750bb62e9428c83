import { maxDepth } from '@/core/said/excess'

/** Things in a JSON text: lists and objects. A folio has a few thousand, its rows lie in long lists of numbers. */
const maxThings = 1_000_000

/**
 * What of a JSON text is more than any of ours holds, in words; null where it is within bounds. The text is looked
 * through once, before anything is made of it: reading millions of empty things takes a hundred times as long.
 */
export function textExcess(bytes: Uint8Array): string | null {
  let [depth, things, inText] = [0, 0, false]
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (inText) {
      if (byte === 0x5c) i++
      else if (byte === 0x22) inText = false
    } else if (byte === 0x22) inText = true
    else if (byte === 0x5b || byte === 0x7b) {
      if (++depth > maxDepth) return `it is nested more than ${maxDepth} levels deep`
      if (++things > maxThings) return `there are more than ${maxThings.toLocaleString('en-GB')} things in it`
    } else if (byte === 0x5d || byte === 0x7d) depth--
  }
  return null
}
