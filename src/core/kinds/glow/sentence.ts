import { lowerFirst } from '../values'
import { GlowSettings } from './spec'
import type { KindData, SentencePart } from '../kind'

export function glowSentence({ field }: GlowSettings, { name, fieldMeta }: KindData): SentencePart[] {
  return [
    { text: 'Let ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' glow' },
    { text: ' ' },
    { text: field === null ? 'alike' : `by ${lowerFirst(fieldMeta(field).label)}`, control: 'field' },
    { text: '.' },
  ]
}
