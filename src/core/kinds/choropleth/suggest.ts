import type { KindData, Suggestion } from '../kind'
import { denominatorOf, headingOf, isGround, perCountFor, worthAMap, type Shown } from '../values'
import { firstChoropleth } from './first'
import type { ChoroplethSettings } from './spec'

const fits = { rate: 0.95, share: 0.92, index: 0.86 }

/** Rates, shares and indexes of areas as they are; totals by what they are usually divided by. */
export function choroplethSuggestions(data: KindData): Suggestion<ChoroplethSettings>[] {
  const one = (shown: Shown, because: string, fit: number): Suggestion<ChoroplethSettings> => {
    const settings = firstChoropleth(shown, data)
    return { settings, shows: headingOf(settings, data.fieldMeta), because, fit }
  }
  const ratios = worthAMap(data, 'rate', 'share', 'index').map((field) => {
    const { role } = data.fieldMeta(field) as { role: keyof typeof fits }
    return one(
      { field, per: null, perCount: 1 },
      `A ${role === 'index' ? 'figure' : role} of areas reads well as a shade.`,
      fits[role],
    )
  })
  const divided = worthAMap(data, 'total').flatMap((field) => {
    const per = denominatorOf(field, data)
    // The ground itself by the ground says nothing.
    if (per === null || isGround(field, data)) return []
    const perCount = perCountFor(field, per, data)
    return [one({ field, per, perCount }, 'A total is divided, so that large areas do not win.', 0.88)]
  })
  return [...ratios, ...divided]
}
