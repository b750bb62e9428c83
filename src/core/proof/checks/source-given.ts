import type { Check } from '../check'

export const sourceGiven: Check = {
  id: 'source-given',
  passed: 'The source is given',
  failed: 'The source is not given',
  run({ sheet, context, layers }) {
    if (!context.panels.length) return null
    const credits = context.fill('{{credits}}')
    const texts = sheet.parts.flatMap((part) =>
      part.type === 'text' && !part.hidden ? [{ id: part.id, text: context.fill(part.settings.text) }] : [],
    )
    if (texts.some(({ text }) => /source|data:|credit/i.test(text) || (credits && text.includes(credits)))) {
      const open = texts.find(({ text }) => text.includes('{{'))
      if (!open)
        return credits ||
          !sheet.parts.some((p) => p.type === 'text' && p.settings.text.includes('{{credits}}'))
          ? { ok: true, detail: credits, target: null }
          : {
              ok: false,
              detail: 'The fill-in for credits is empty: no dataset has a credit line.',
              target: { desk: 'data', datasetId: layers[0]?.layer.datasetId ?? '' },
            }
      return {
        ok: false,
        detail: `“${open.text}” holds a fill-in that is not known.`,
        target: { desk: 'sheet', partId: open.id },
      }
    }
    return { ok: false, detail: 'Add a text with {{credits}}.', target: { desk: 'sheet', partId: null } }
  },
}
