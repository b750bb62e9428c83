import { colouringLabel } from '@/core/colour/colouring'
import { methods } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import type { KindData, SentencePart } from '../kind'
import { shapeWords } from '../marks/shapes'
import { lowerFirst, perWords } from '../values'
import { fieldWords, overYearsWords } from '../years'
import type { SymbolSettings } from './spec'

/**
 * “Size circles for districts by population as it is, 100,000 being 6 mm wide by area, coloured by median
 * household income.”
 */
export function symbolSentence(settings: SymbolSettings, data: KindData): SentencePart[] {
  const { name, fieldMeta } = data
  const { anchor, shape, scaling, graded, colour } = settings
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  const high = shape === 'bar' || shape === 'drop' || shape === 'picture'
  const size = graded
    ? [
        { text: ' in ' },
        { text: numberWord(count), control: 'classes' as const },
        { text: ' classes by ' },
        { text: methods[settings.method].label, control: 'method' as const },
      ]
    : [
        { text: ', ' },
        {
          text:
            anchor.by === 'value'
              ? `${formatNumber(anchor.value, 0)} being ${anchor.sizeMm} mm ${high ? 'high' : 'wide'}`
              : `${anchor.smallestMm} to ${anchor.largestMm} mm ${high ? 'high' : 'wide'}`,
          control: 'size' as const,
        },
        ...(shape === 'bar'
          ? []
          : [
              { text: ' by ' },
              {
                text: { area: 'area', height: 'height', perceptual: 'what it looks like' }[scaling],
                control: 'scale' as const,
              },
            ]),
      ]
  return [
    { text: 'Size ' },
    { text: shapeWords[shape], control: 'shape' },
    { text: ' for ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    ...fieldWords(settings, data),
    { text: ' ' },
    { text: perWords(settings, fieldMeta), control: 'per' },
    ...size,
    ...overYearsWords(settings, data),
    { text: ', coloured ' },
    {
      text: colour.by === 'nothing' ? 'alike' : `by ${lowerFirst(fieldMeta(colour.field).label)}`,
      control: 'colour-by',
    },
    ...(colour.by === 'value'
      ? [{ text: ', ' }, { text: colouringLabel(colour.colouring), control: 'colours' as const }]
      : []),
    { text: '.' },
  ]
}
