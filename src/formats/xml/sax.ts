import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { ImportError } from '../import-error'
import { limits } from '../limits'

/** What is listened to while a document is read; names come without prefixes. */
export type XmlListener = {
  open?: (name: string, attributes: Record<string, string>) => void
  close?: (name: string) => void
  text?: (text: string) => void
}

const plainName = (name: string): string => name.slice(name.indexOf(':') + 1)
const pieceBytes = 1 << 20

/**
 * Reads an XML document piece by piece. Document types are not taken: their entities could blow up or lead to
 * other files.
 * @param where how the document is called in what is said of it
 * @throws ImportError naming line and column where it breaks
 */
export function readXml(bytes: Uint8Array, where: string, listener: XmlListener): void {
  const parser = new SaxesParser()
  let depth = 0
  parser.on('error', () => {
    throw new ImportError(
      `${where} is not complete XML: it breaks at line ${parser.line}, column ${parser.column}.`,
    )
  })
  parser.on('doctype', () => {
    throw new ImportError(
      `${where} declares a document type with entities of its own, which is not taken. Save it again without.`,
    )
  })
  parser.on('opentag', ({ name, attributes }: SaxesTagPlain) => {
    if (++depth > limits.depth)
      throw new ImportError(
        `${where} is nested more than ${limits.depth} levels deep at line ${parser.line}.`,
      )
    listener.open?.(plainName(name), attributes)
  })
  parser.on('closetag', ({ name }: SaxesTagPlain) => {
    depth--
    listener.close?.(plainName(name))
  })
  if (listener.text) {
    const { text } = listener
    parser.on('text', text)
    parser.on('cdata', text)
  }
  const decoder = new TextDecoder()
  for (let from = 0; from < bytes.length; from += pieceBytes)
    parser.write(decoder.decode(bytes.subarray(from, from + pieceBytes), { stream: true }))
  parser.write(decoder.decode())
  parser.close()
}
