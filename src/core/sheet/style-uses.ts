import { partTypeOf } from './registry'
import type { Sheet } from './spec'
import type { TypeStyle } from './type-style'

/** How many pieces of lettering follow a named style, and on how many sheets. */
export function usesOfStyle(sheets: readonly Sheet[], id: string): { texts: number; sheets: number } {
  const onSheets = sheets.map(
    ({ parts }) =>
      parts.flatMap(({ type, settings }) => {
        const values = settings as Record<string, unknown>
        return partTypeOf(type).styles.filter((key) => (values[key] as TypeStyle).named === id)
      }).length,
  )
  return {
    texts: onSheets.reduce((sum, n) => sum + n, 0),
    sheets: onSheets.filter((n) => n > 0).length,
  }
}
