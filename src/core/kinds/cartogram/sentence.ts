import type { CartogramForm } from '@/core/cartogram/spec'
import { hasOwnShapes, isTiled } from '@/core/cartogram/spec'
import { choroplethSentence } from '../choropleth/sentence'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import type { CartogramSettings } from './spec'

/** What stands for each area, as a sentence begins with it. */
export const formWords: Record<CartogramForm, string> = {
  'own shapes': 'Shapes',
  continuous: 'Stretched shapes',
  circles: 'Circles',
  squares: 'Squares',
  'hexagon tiles': 'One hexagon',
  'square tiles': 'One square',
}

/** “Circles for districts sized by population, shaded by loans per resident in five classes by natural breaks…” */
export function cartogramSentence(settings: CartogramSettings, data: KindData): SentencePart[] {
  // “Shade districts by” is said otherwise here.
  const shading = choroplethSentence(settings, data).slice(3)
  const dataset: SentencePart = { text: data.name.toLowerCase(), control: 'dataset' }
  const form: SentencePart = { text: formWords[settings.form], control: 'shape' }
  if (isTiled(settings.form))
    return [form, { text: ' for each of the ' }, dataset, { text: ', shaded by ' }, ...shading]
  return [
    form,
    { text: hasOwnShapes(settings.form) ? ' of ' : ' for ' },
    dataset,
    { text: ' sized by ' },
    { text: lowerFirst(data.fieldMeta(settings.size).label), control: 'size' },
    { text: ', shaded by ' },
    ...shading,
  ]
}
