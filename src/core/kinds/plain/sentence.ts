import type { KindData, SentencePart } from '../kind'
import type { PlainSettings } from './spec'

/** “Show lakes for orientation, named by name.” */
export function plainSentence(settings: PlainSettings, { name, fieldMeta }: KindData): SentencePart[] {
  const named = settings.label ? `, named by ${fieldMeta(settings.label.field).label.toLowerCase()}` : ''
  return [{ text: 'Show ' }, { text: name.toLowerCase(), control: 'dataset' }, { text: ` for orientation${named}.` }]
}
