import { unknownFillIns } from '@/core/sheet/fill-ins'
import { wordsOfPart } from '@/core/sheet/words'
import type { Check } from '../check'

export const fillInsKnown: Check = {
  id: 'fill-ins-known',
  passed: 'Every fill-in is known',
  failed: 'A fill-in is not known',
  run({ sheet }) {
    const shown = sheet.parts.filter((part) => !part.hidden)
    const words = shown.map((part) => ({ part, text: wordsOfPart(part) }))
    if (!words.some(({ text }) => text.includes('{{'))) return null
    for (const { part, text } of words) {
      const [unknown] = unknownFillIns(text)
      if (unknown !== undefined)
        return {
          ok: false,
          detail: `“${part.name}” holds ${unknown}, which is printed as it stands.`,
          target: { desk: 'sheet', partId: part.id },
        }
    }
    return { ok: true, detail: '', target: null }
  },
}
