import { writeNumber } from '@/core/classify/number-format'
import { colouringLabel } from '@/core/colour/colouring'
import { classWords, shadeWords } from '../class-words'
import { perWords } from '../values'
import { fieldWords, overYearsWords } from '../years'
import type { KindData, SentencePart } from '../kind'
import type { ChoroplethSettings } from './spec'

/** “Shade districts by library loans 2025 per resident in five classes by natural breaks, coloured Reed.” */
export function choroplethSentence(settings: ChoroplethSettings, data: KindData): SentencePart[] {
  const { name, fieldMeta } = data
  return [
    { text: 'Shade ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    ...fieldWords(settings, data),
    { text: ' ' },
    { text: perWords(settings, fieldMeta), control: 'per' },
    { text: ' ' },
    ...(settings.unclassed ? shadeWords(settings.unclassed) : classWords(settings)),
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
