import type { KindData, Suggestion } from '../kind'
import { lowerFirst, worthAMap } from '../values'
import type { BivariateSettings } from './spec'

/** The two best rates, shares or indexes of areas together. */
export function bivariateSuggestions(
  data: KindData,
  of: (across: string, up: string) => BivariateSettings,
): Suggestion<BivariateSettings>[] {
  const [first, second] = worthAMap(data, 'rate', 'share', 'index')
  if (!second || data.dataset.rowCount < 20) return []
  const [a, b] = [first, second].map((key) => data.fieldMeta(key).label)
  return [
    {
      settings: of(first, second),
      shows: `${a} and ${lowerFirst(b)}`,
      because: 'Two figures on one map show where they go together.',
      fit: 0.7,
    },
  ]
}
