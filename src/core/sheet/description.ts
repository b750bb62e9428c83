import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import type { PanelView } from './part'

/**
 * What the panels of a sheet show, in the words of their map sentences, for whoever cannot see the page; the same
 * words once, thematic layers alone.
 */
export function descriptionOf(panels: readonly PanelView[]): string {
  const sentences = panels.flatMap(({ layers }) =>
    layers.flatMap(({ layer: { symbology }, prepared }) => {
      const kind = kindOf(symbology.kind)
      if (!kind.thematic) return []
      return kind
        .sentence(symbology.settings, kindData(prepared))
        .map(({ text }) => text)
        .join('')
    }),
  )
  return [...new Set(sentences)].join(' ')
}
