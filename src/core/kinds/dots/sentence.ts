import { lowerFirst } from '../values'
import type { KindData, SentencePart } from '../kind'
import { eachWords } from './legend'
import type { DotSettings } from './spec'

export function dotSentence({ fields, each }: DotSettings, { name, fieldMeta }: KindData): SentencePart[] {
  const labels = fields.map(({ field }) => lowerFirst(fieldMeta(field).label))
  const units = new Set(fields.map(({ field }) => fieldMeta(field).unit))
  const [unit] = units
  return [
    { text: 'One dot for ' },
    { text: eachWords(each), control: 'size' },
    { text: units.size === 1 && unit ? ` ${unit} of ` : ' of ' },
    {
      text: labels.length > 2 ? `${labels.slice(0, 2).join(', ')} and more` : labels.join(' and '),
      control: 'field',
    },
    { text: ' in ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: '.' },
  ]
}
