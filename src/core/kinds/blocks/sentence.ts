import { choroplethSentence } from '../choropleth/sentence'
import type { KindData, SentencePart } from '../kind'
import { lowerFirst } from '../values'
import { valueWords } from './legend'
import type { BlocksSettings } from './spec'

/** “Blocks for districts by population, one block for 5,000, coloured by loans per resident in five classes…” */
export function blocksSentence(settings: BlocksSettings, data: KindData): SentencePart[] {
  const start: SentencePart[] = [
    { text: settings.shape === 'squares' ? 'Square blocks' : 'Blocks', control: 'shape' },
    { text: ' for ' },
    { text: data.name.toLowerCase(), control: 'dataset' },
    { text: ' by ' },
    { text: lowerFirst(data.fieldMeta(settings.size).label), control: 'size' },
    { text: ', one block for ' },
    {
      text: valueWords(settings.value),
      control: 'threshold',
    },
  ]
  if (settings.parts.length)
    return [
      ...start,
      { text: ', shared out among ' },
      {
        text: settings.parts.map(({ field }) => lowerFirst(data.fieldMeta(field).label)).join(', '),
        control: 'colour-by',
      },
      { text: '.' },
    ]
  // “Shade districts by” is said otherwise here.
  return [...start, { text: ', coloured by ' }, ...choroplethSentence(settings, data).slice(3)]
}
