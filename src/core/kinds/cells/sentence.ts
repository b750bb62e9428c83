import { colouringLabel } from '@/core/colour/colouring'
import { classWords } from '../class-words'
import { lowerFirst } from '../values'
import type { KindData, SentencePart } from '../kind'
import { figureMeta, spacingWords } from './plan'
import type { CellSettings } from './spec'

const formWords = { classes: '', sized: 'sized ', spikes: 'spikes on ' }

/** “Count libraries in hexagons of 20 km, in five classes by natural breaks, coloured Reed.” */
export function cellSentence(settings: CellSettings, data: KindData): SentencePart[] {
  const { figure, shape, form } = settings
  const what: SentencePart[] =
    figure === 'count'
      ? [
          { text: 'Count', control: 'field' },
          { text: ' ' },
          { text: data.name.toLowerCase(), control: 'dataset' },
        ]
      : [
          { text: figure === 'sum' ? 'Sum of ' : '' },
          {
            text:
              figure === 'sum' && settings.field
                ? lowerFirst(data.fieldMeta(settings.field).label)
                : figureMeta(settings, data).label,
            control: 'field',
          },
          { text: ' of ' },
          { text: data.name.toLowerCase(), control: 'dataset' },
        ]
  return [
    ...what,
    { text: ' in ' },
    { text: `${formWords[form]}${shape}`, control: 'shape' },
    { text: ' of ' },
    { text: spacingWords(settings), control: 'size' },
    ...(settings.unclassed
      ? [{ text: ', ' }, { text: 'without classes', control: 'classes' as const }]
      : [{ text: ', ' }, ...classWords(settings)]),
    { text: ', coloured ' },
    { text: colouringLabel(settings), control: 'colours' },
    { text: '.' },
  ]
}
