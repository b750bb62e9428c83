import type { KindData, SentencePart } from '../kind'
import type { RasterSettings } from './spec'

const words = { greys: ' in greys', heights: ' in height tints', colours: '' }

/** “Show relief for orientation, in height tints.” */
export const rasterSentence = ({ look }: RasterSettings, { name }: KindData): SentencePart[] => [
  { text: 'Show ' },
  { text: name.toLowerCase(), control: 'dataset' },
  { text: `${words[look]} for orientation.` },
]
