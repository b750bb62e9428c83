import { colouringLabel } from '@/core/colour/colouring'
import { formatNumber, numberWord } from '@/core/classify/labels'
import { singularUnit } from '@/core/data/field-meta'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { columnsFor } from './plan'
import { squares } from './palettes'
import type { BivariateSettings, Variable } from './spec'

/** “Shade districts by loans per resident and income as it is, three by three classes, coloured Moss and slate.” */
export function bivariateSentence(settings: BivariateSettings, { name, fieldMeta }: KindData): SentencePart[] {
  const per = ({ per, perCount }: Variable): string => {
    const divisor = per === null ? null : fieldMeta(per)
    return divisor ? `per ${perCount === 1 ? singularUnit(divisor) : `${formatNumber(perCount, 0)} ${divisor.unit || divisor.label.toLowerCase()}`}` : 'as it is'
  }
  const { across, up, form } = settings
  const count = (variable: Variable) => (variable.method === 'manual' ? variable.manualBreaks.length + 1 : variable.classes)
  return [
    { text: 'Shade ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    { text: lowerFirst(fieldMeta(across.field).label), control: 'field' },
    { text: ' ' },
    { text: per(across), control: 'per' },
    { text: ({ square: ' and ', fading: ', the stronger the higher ', suppressing: ', the vaguer the higher ' } as const)[form], },
    { text: lowerFirst(fieldMeta(up.field).label), control: 'field-2' },
    { text: ' ' },
    { text: per(up), control: 'per-2' },
    { text: ', ' },
    { text: `${numberWord(form === 'suppressing' ? columnsFor(count(up)) : count(across))} by ${numberWord(count(up))}`, control: 'classes' },
    { text: ' classes, coloured ' },
    { text: form === 'square' ? squares[settings.square].label : colouringLabel(settings.colouring), control: 'colours' },
    { text: '.' },
  ]
}
