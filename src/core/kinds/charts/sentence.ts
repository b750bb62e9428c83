import { chartFormWords } from './spec'
import { formatNumber } from '@/core/classify/labels'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { isRound } from './plan'
import { ChartSettings } from './spec'

export function chartSentence(settings: ChartSettings, { name, fieldMeta }: KindData): SentencePart[] {
  return [
    { text: 'Draw ' },
    { text: chartFormWords[settings.form], control: 'shape' },
    { text: ' for ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' of ' },
    {
      text:
        settings.parts.length > 3
          ? `${settings.parts.length} fields`
          : settings.parts.map(({ field }) => lowerFirst(fieldMeta(field).label)).join(', '),
      control: 'field',
    },
    {
      text:
        isRound(settings) && !settings.sized
          ? ', all '
          : `, ${formatNumber(settings.anchor.value, 0)} being `,
    },
    { text: `${settings.anchor.sizeMm} mm`, control: 'size' },
    { text: isRound(settings) ? ' wide.' : ' high.' },
  ]
}
