import type { HyphenLanguage } from './spec'

type Hyphenate = (text: string) => string

const modules: Record<HyphenLanguage, () => Promise<{ default: { hyphenateSync: Hyphenate } }>> = {
  'en-gb': () => import('hyphen/en-gb/index.js'),
  'en-us': () => import('hyphen/en-us/index.js'),
  de: () => import('hyphen/de/index.js'),
  fr: () => import('hyphen/fr/index.js'),
  es: () => import('hyphen/es/index.js'),
  it: () => import('hyphen/it/index.js'),
  nl: () => import('hyphen/nl/index.js'),
}

const loaded = new Map<HyphenLanguage, Hyphenate>()

/** Loads the patterns of some languages, each once; words are parted only after that. */
export async function loadHyphens(languages: Iterable<HyphenLanguage>): Promise<void> {
  await Promise.all(
    [...new Set(languages)]
      .filter((language) => !loaded.has(language))
      .map(async (language) => {
        const { default: patterns } = await modules[language]()
        loaded.set(language, (text) => patterns.hyphenateSync(text))
      }),
  )
}

export const softHyphen = '\u00ad'

/**
 * The syllables of a word, as the patterns of its language part it (Liang 1983); words of four letters are one.
 * @throws Error where the patterns of the language were not loaded
 */
export function syllablesOf(word: string, language: HyphenLanguage | null): string[] {
  if (word.includes(softHyphen)) return word.split(softHyphen)
  if (!language || word.length <= 4) return [word]
  const hyphenate = loaded.get(language)
  if (!hyphenate) throw new Error(`The patterns of the language ${language} were not loaded.`)
  return hyphenate(word).split(softHyphen)
}
