import type { LooseMatch } from '@/core/data/join'

/** In which way keys that differ are taken for the same, behind their number. */
export const wayWords: Record<LooseMatch, string> = {
  loose: 'but for zeros, blanks, case or punctuation',
  codes: 'as codes or names of one country',
  words: 'but for common words',
}
