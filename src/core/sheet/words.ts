import type { Part } from './registry'

/** The words that were typed into a part, its fill-ins not filled in; empty for parts without words of their own. */
export const wordsOfPart = ({ settings }: Part): string =>
  'text' in settings && typeof settings.text === 'string' ? settings.text : ''
