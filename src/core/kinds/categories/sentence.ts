import { unordered } from '@/core/colour/schemes'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { CategorySettings } from './spec'

export function categorySentence(settings: CategorySettings, { name, fieldMeta }: KindData): SentencePart[] {
  return [
    { text: 'Show ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by their ' },
    { text: lowerFirst(fieldMeta(settings.field).label), control: 'field' },
    {
      text:
        settings.fewest > 1 ? `, those with fewer than ${settings.fewest} as ${settings.other.label},` : '',
    },
    { text: ' in colours ' },
    { text: unordered[settings.set]?.label ?? settings.set, control: 'colours' },
    { text: '.' },
  ]
}
