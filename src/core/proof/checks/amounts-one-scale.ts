import type { Check } from '../check'

/** Amounts of one unit that stand on one sheet are compared by eye: their areas have to follow one scale. */
export const amountsOneScale: Check = {
  id: 'amounts-one-scale',
  passed: 'All amounts of one unit follow one scale',
  failed: 'Amounts of one unit follow several scales',
  run({ sheet, context }) {
    const first = new Map<string, { name: string; perMm2: number }>()
    let several = 0
    for (const part of sheet.parts) {
      if (part.type !== 'amount' || part.hidden) continue
      const { datasetId, parts, perMm2 } = part.settings
      const unit = context.datasets.get(datasetId)?.fieldMeta(parts[0].field).unit ?? ''
      const other = first.get(unit)
      if (!other) first.set(unit, { name: part.name, perMm2 })
      else {
        several++
        if (Math.abs(perMm2 / other.perMm2 - 1) > 1e-9)
          return {
            ok: false,
            detail: `1 mm² of “${part.name}” stands for another amount than of “${other.name}”.`,
            target: { desk: 'sheet', partId: part.id },
          }
      }
    }
    return several ? { ok: true, detail: `${several + 1} amounts`, target: null } : null
  },
}
