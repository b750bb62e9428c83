import { methods } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { colouringLabel } from '@/core/colour/colouring'
import { perWords } from '../values'
import { fieldWords, overYearsWords } from '../years'
import type { KindData, SentencePart } from '../kind'
import type { ChoroplethSettings } from './spec'

/** “Shade districts by library loans 2025 per resident in five classes by natural breaks, coloured Reed.” */
export function choroplethSentence(settings: ChoroplethSettings, data: KindData): SentencePart[] {
  const { name, fieldMeta } = data
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  return [
    { text: 'Shade ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    ...fieldWords(settings, data),
    { text: ' ' },
    { text: perWords(settings, fieldMeta), control: 'per' },
    ...(settings.unclassed
      ? [
          { text: ' ' },
          { text: 'without classes', control: 'classes' as const },
          { text: ' on a ' },
          {
            text: settings.unclassed === 'rank' ? 'scale of ranks' : `${settings.unclassed} scale`,
            control: 'scale' as const,
          },
        ]
      : [
          { text: ' in ' },
          { text: numberWord(count), control: 'classes' as const },
          { text: ' classes by ' },
          { text: methods[settings.method].label, control: 'method' as const },
        ]),
    ...overYearsWords(settings, data),
    ...(settings.midpoint
      ? [{ text: ' on both sides of ' }, { text: midpointWords(settings), control: 'midpoint' as const }]
      : []),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}

const midpointWords = ({ midpoint, numbers }: ChoroplethSettings): string =>
  midpoint
    ? {
        zero: 'zero',
        mean: 'the mean',
        median: 'the median',
        national: 'the national figure',
        typed: writeNumber(midpoint.value, numbers, 2).replace(/\.?0+$/, ''),
      }[midpoint.at]
    : ''
