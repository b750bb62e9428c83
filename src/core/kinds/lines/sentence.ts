import { formatNumber } from '@/core/classify/labels'
import { colouringLabel } from '@/core/colour/colouring'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { LineSettings } from './spec'

export function lineSentence(settings: LineSettings, { name, fieldMeta }: KindData): SentencePart[] {
  return [
    { text: 'Draw ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ', their width ' },
    {
      text: settings.width ? `by ${lowerFirst(fieldMeta(settings.width.field).label)}` : 'alike',
      control: 'field',
    },
    ...(settings.width
      ? [
          { text: ', ' },
          {
            text: `${formatNumber(settings.width.value, 0)} being ${settings.width.widthMm} mm`,
            control: 'size' as const,
          },
        ]
      : []),
    { text: ', coloured ' },
    {
      text: settings.colour ? `by ${lowerFirst(fieldMeta(settings.colour.field).label)}` : 'alike',
      control: 'colour-by',
    },
    ...(settings.colour
      ? [{ text: ', ' }, { text: colouringLabel(settings.colour.colouring), control: 'colours' as const }]
      : []),
    { text: '.' },
  ]
}
