import { DOMParser, type Element as XmlElement } from '@xmldom/xmldom'

/** The outermost element; null for what is not well formed. */
export function rootOf(text: string): XmlElement | null {
  let broken = false
  try {
    const { documentElement } = new DOMParser({
      onError: (level) => void (broken ||= level !== 'warning'),
    }).parseFromString(text, 'image/svg+xml')
    return broken ? null : documentElement
  } catch {
    return null
  }
}
