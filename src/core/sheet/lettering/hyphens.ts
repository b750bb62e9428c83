import de from 'hyphen/de'
import enGb from 'hyphen/en-gb'
import enUs from 'hyphen/en-us'
import es from 'hyphen/es'
import fr from 'hyphen/fr'
import it from 'hyphen/it'
import nl from 'hyphen/nl'
import type { HyphenLanguage } from './spec'

const patterns: Record<HyphenLanguage, { hyphenateSync(text: string): string }> = {
  'en-gb': enGb,
  'en-us': enUs,
  de,
  fr,
  es,
  it,
  nl,
}

export const softHyphen = '\u00ad'

/** The syllables of a word, as the patterns of its language part it (Liang 1983); words of four letters are one. */
export function syllablesOf(word: string, language: HyphenLanguage | null): string[] {
  if (word.includes(softHyphen)) return word.split(softHyphen)
  return language && word.length > 4 ? patterns[language].hyphenateSync(word).split(softHyphen) : [word]
}
