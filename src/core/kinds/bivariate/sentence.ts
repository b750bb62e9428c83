import { colouringLabel } from '@/core/colour/colouring'
import { numberWord } from '@/core/classify/labels'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst, perWords } from '../values'
import { columnsFor } from './plan'
import { squares } from './palettes'
import type { BivariateSettings, Variable } from './spec'

/**
 * “Shade districts by loans per resident and income as it is, three by three classes, coloured Moss and
 * slate.”
 */
export function bivariateSentence(
  settings: BivariateSettings,
  { name, fieldMeta }: KindData,
): SentencePart[] {
  const { across, up, form } = settings
  const count = (variable: Variable) =>
    variable.method === 'manual' ? variable.manualBreaks.length + 1 : variable.classes
  return [
    { text: 'Shade ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    { text: lowerFirst(fieldMeta(across.field).label), control: 'field' },
    { text: ' ' },
    { text: perWords(across, fieldMeta), control: 'per' },
    {
      text: (
        {
          square: ' and ',
          fading: ', the stronger the higher ',
          suppressing: ', the vaguer the higher ',
        } as const
      )[form],
    },
    { text: lowerFirst(fieldMeta(up.field).label), control: 'field-2' },
    { text: ' ' },
    { text: perWords(up, fieldMeta), control: 'per-2' },
    { text: ', ' },
    {
      text: `${numberWord(form === 'suppressing' ? columnsFor(count(up)) : count(across))} by ${numberWord(count(up))}`,
      control: 'classes',
    },
    { text: ' classes, coloured ' },
    {
      text: form === 'square' ? squares[settings.square].label : colouringLabel(settings.colouring),
      control: 'colours',
    },
    { text: '.' },
  ]
}
