import { methods } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import type { Classing } from '@/core/classify/spec'
import type { SentencePart } from './kind'

/** “in five classes by natural breaks”: how values are put into classes, with what opens under its words. */
export function classWords({
  method,
  classes,
  manualBreaks,
}: Pick<Classing, 'method' | 'classes' | 'manualBreaks'>): SentencePart[] {
  const count = method === 'manual' ? manualBreaks.length + 1 : classes
  return [
    { text: 'in ' },
    { text: numberWord(count), control: 'classes' },
    { text: ' classes by ' },
    { text: methods[method].label, control: 'method' },
  ]
}

/** “without classes on a linear scale”: each value has its own shade. */
export const shadeWords = (unclassed: NonNullable<Classing['unclassed']>): SentencePart[] => [
  { text: 'without classes', control: 'classes' },
  { text: ' on a ' },
  { text: unclassed === 'rank' ? 'scale of ranks' : `${unclassed} scale`, control: 'scale' },
]
