import { createMemory, identity } from '@/core/memory/memory'
import { partTypeOf, type Part } from './registry'
import { resolvedStyle } from './type-styles'
import type { NamedTypeStyle, TypeStyle } from './type-style'

const remember = createMemory<object, object>('parts in the styles of their folio', { maxBytes: 8 * 2 ** 20 })

/**
 * The settings of a part with its lettering set in the styles of the folio: the very same object for the same
 * settings and styles.
 */
function readySettings({ type, settings }: Part, named: readonly NamedTypeStyle[]): object {
  const keys = partTypeOf(type).styles
  if (!keys.length) return settings
  return remember(settings, identity(named), () => {
    const values = settings as Record<string, unknown>
    const set = keys.map((key) => [key, resolvedStyle(values[key] as TypeStyle, named)])
    return { ...settings, ...Object.fromEntries(set) }
  })
}

/** A part with its lettering set in the styles of the folio. */
export function readyPart<P extends Part>(part: P, named: readonly NamedTypeStyle[]): P {
  const settings = readySettings(part, named)
  return settings === part.settings ? part : ({ ...part, settings } as P)
}
