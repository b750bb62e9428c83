import type { KindData, SentencePart } from '../kind'
import type { PlainSettings } from './spec'

/** “Show lakes for orientation.” */
export function plainSentence(_: PlainSettings, { name }: KindData): SentencePart[] {
  return [{ text: 'Show ' }, { text: name.toLowerCase(), control: 'dataset' }, { text: ' for orientation.' }]
}
