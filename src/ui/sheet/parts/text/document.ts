import type { JSONContent } from '@tiptap/core'
import { runsOf } from '@/core/sheet/lettering/runs'
import type { Alignment, RunLook, Span } from '@/core/sheet/lettering/spec'

/** The mark under which the editor keeps the look of a stretch of text. */
export const lookMark = 'look'

const hasLook = (look: RunLook): boolean => Object.values(look).some((value) => value !== undefined)

/** A text with its spans as a document of the editor: a paragraph for each line. */
export function toDocument(
  text: string,
  spans: readonly Span[],
  alignEach: readonly (Alignment | null)[] = [],
): JSONContent {
  const paragraphs: JSONContent[][] = [[]]
  for (const run of runsOf(text, spans))
    run.text.split('\n').forEach((piece, i) => {
      if (i > 0) paragraphs.push([])
      if (!piece) return
      const marks = hasLook(run.look) ? [{ type: lookMark, attrs: { look: run.look } }] : []
      paragraphs[paragraphs.length - 1].push({ type: 'text', text: piece, marks })
    })
  return {
    type: 'doc',
    content: paragraphs.map((content, i) => ({
      type: 'paragraph',
      attrs: { align: alignEach[i] ?? null },
      content,
    })),
  }
}

/** What the editor holds: a text, its spans, and how its paragraphs are set. */
export function fromDocument(document: JSONContent): {
  text: string
  spans: Span[]
  alignEach: (Alignment | null)[]
} {
  const aligns = (document.content ?? []).map(({ attrs }) => (attrs?.align as Alignment | null) ?? null)
  // What is as the text at the end is not said.
  const alignEach = aligns.slice(0, aligns.findLastIndex((align) => align !== null) + 1)
  let text = ''
  const spans: Span[] = []
  document.content?.forEach((paragraph, i) => {
    if (i > 0) text += '\n'
    for (const node of paragraph.content ?? []) {
      const from = text.length
      text += node.text ?? ''
      const look = node.marks?.find((mark) => mark.type === lookMark)?.attrs?.look as RunLook | undefined
      if (!look || !hasLook(look)) continue
      const last = spans.at(-1)
      if (last && last.to === from && JSON.stringify(last.look) === JSON.stringify(look))
        last.to = text.length
      else spans.push({ from, to: text.length, look })
    }
  })
  return { text, spans, alignEach }
}
