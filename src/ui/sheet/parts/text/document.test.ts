import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alignments, type Span } from '@/core/sheet/lettering/spec'
import { runsOf } from '@/core/sheet/lettering/runs'
import { fromDocument, toDocument } from './document'

const text = fc.string({ unit: fc.constantFrom('a', 'é', ' ', '\n', '{{date}}'), maxLength: 30 })
const span = (length: number): fc.Arbitrary<Span> =>
  fc
    .tuple(
      fc.nat(length),
      fc.nat(length),
      fc.constantFrom({ italic: true }, { sizePt: 12 }, { colour: '#ff0000' }),
    )
    .map(([a, b, look]) => ({ from: Math.min(a, b), to: Math.max(a, b), look }))

describe('a text in the editor', () => {
  it('comes back as it was: its words, the look of each letter and how paragraphs are set', () => {
    fc.assert(
      fc.property(
        text.chain((words) =>
          fc.tuple(
            fc.constant(words),
            fc.array(span(words.length), { maxLength: 4 }),
            fc.array(fc.constantFrom(null, ...alignments), { maxLength: 4 }),
          ),
        ),
        ([words, spans, set]) => {
          const back = fromDocument(toDocument(words, spans, set))
          expect(back.text).toBe(words)
          // Line ends have no look of their own.
          const looks = (runs: ReturnType<typeof runsOf>) =>
            runs.flatMap(({ text: own, look }) => [...own].filter((c) => c !== '\n').map((c) => [c, look]))
          expect(looks(runsOf(back.text, back.spans))).toEqual(looks(runsOf(words, spans)))
          const paragraphs = words.split('\n')
          paragraphs.forEach((_, i) => expect(back.alignEach[i] ?? null).toBe(set[i] ?? null))
          expect(back.alignEach.at(-1)).not.toBe(null)
        },
      ),
    )
  })

  it('is one empty paragraph where there are no words', () => {
    expect(fromDocument(toDocument('', []))).toEqual({ text: '', spans: [], alignEach: [] })
    expect(fromDocument({ type: 'doc' })).toEqual({ text: '', spans: [], alignEach: [] })
  })
})
