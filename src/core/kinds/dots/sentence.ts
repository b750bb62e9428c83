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
    { text: ofUnit(units.size === 1 ? (unit ?? '') : '', labels[0] ?? '') },
    {
      text: labels.length > 2 ? `${labels.slice(0, 2).join(', ')} and more` : labels.join(' and '),
      control: 'field',
    },
    { text: ' in ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: '.' },
  ]
}

/** “ persons of ”, or nothing where the label begins with the unit: “250 members under 18”. */
const ofUnit = (unit: string, label: string): string => {
  if (!unit) return ' of '
  return label.toLowerCase().startsWith(`${unit.toLowerCase()} `) ? ' ' : ` ${unit} of `
}
