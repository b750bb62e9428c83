import type { KindData, Suggestion } from '../kind'
import { headingOf, isGround, worthAMap } from '../values'
import { firstSymbols } from './first'
import type { SymbolSettings } from './spec'

/** Symbols beyond which they lie on each other wherever there are people. */
const mostSymbols = 5000

/** Totals as sizes; on points other figures as well, since nothing else shows them there. */
export function symbolSuggestions(data: KindData): Suggestion<SymbolSettings>[] {
  const onPoints = data.dataset.geometry.kind === 'points'
  const crowded = data.dataset.rowCount > mostSymbols ? 0.4 : 0
  const one = (field: string, because: string, fit: number): Suggestion<SymbolSettings> => {
    const settings = firstSymbols(field, data)
    return { settings, shows: headingOf(settings, data.fieldMeta), because, fit: fit - crowded }
  }
  return [
    ...worthAMap(data, 'total')
      .filter((field) => !isGround(field, data))
      .map((field) => one(field, 'A total reads well as a size.', onPoints ? 0.9 : 0.8)),
    ...(onPoints
      ? worthAMap(data, 'rate', 'share', 'index')
          // The first of a ranking would be the smallest.
          .filter((field) => !/\brank(ing)?\b/i.test(data.fieldMeta(field).label))
          .map((field) => one(field, 'Each point by its figure.', 0.55))
      : []),
  ]
}
