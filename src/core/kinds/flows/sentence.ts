import { methods } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { FlowSettings } from './spec'

export function flowSentence(settings: FlowSettings, { name, fieldMeta }: KindData): SentencePart[] {
  return [
    { text: 'Draw flows of ' },
    { text: lowerFirst(fieldMeta(settings.field).label), control: 'field' },
    { text: ' from ' },
    { text: name.toLowerCase(), control: 'dataset' },
    ...(settings.graded
      ? [
          { text: ' as lines in ' },
          {
            text: numberWord(
              settings.graded.method === 'manual'
                ? settings.graded.manualBreaks.length + 1
                : settings.graded.classes,
            ),
            control: 'classes' as const,
          },
          { text: ' classes by ' },
          { text: methods[settings.graded.method].label, control: 'method' as const },
          { text: ', up to ' },
          { text: `${settings.anchor.widthMm} mm`, control: 'size' as const },
        ]
      : [
          { text: ` as lines, ${formatNumber(settings.anchor.value, 0)} being ` },
          { text: `${settings.anchor.widthMm} mm`, control: 'size' as const },
        ]),
    { text: ' wide, leaving out those under ' },
    { text: formatNumber(settings.threshold, 0), control: 'threshold' },
    { text: ', coloured ' },
    {
      text: { nothing: 'alike', direction: 'by direction', region: 'by where they start' }[
        settings.colour.by
      ],
      control: 'colour-by',
    },
    { text: '.' },
  ]
}
