/** Bytes as Base64 (RFC 4648), in pieces that a call can take. */
export function toBase64(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 30_000) text += String.fromCharCode(...bytes.subarray(i, i + 30_000))
  return btoa(text)
}

/** @throws DOMException for what is not Base64 */
export const fromBase64 = (text: string): Uint8Array =>
  Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))
