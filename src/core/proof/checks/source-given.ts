import { wordsOfPart } from '@/core/sheet/words'
import type { Check } from '../check'

export const sourceGiven: Check = {
  id: 'source-given',
  passed: 'The source is given',
  failed: 'The source is not given',
  run({ sheet, context, layers }) {
    if (!context.panels.length) return null
    const credits = context.fill('{{credits}}')
    const texts = sheet.parts
      .filter((part) => !part.hidden)
      .map((part) => ({ written: wordsOfPart(part), text: context.fill(wordsOfPart(part)) }))
    const says = texts.some(
      ({ text }) => /source|data:|credit/i.test(text) || (credits && text.includes(credits)),
    )
    if (!says)
      return { ok: false, detail: 'Add a text with {{credits}}.', target: { desk: 'sheet', partId: null } }
    if (credits || !texts.some(({ written }) => written.includes('{{credits}}')))
      return { ok: true, detail: credits, target: null }
    return {
      ok: false,
      detail: 'The fill-in for credits is empty: no dataset has a credit line.',
      target: { desk: 'data', datasetId: layers[0]?.layer.datasetId ?? '' },
    }
  },
}
