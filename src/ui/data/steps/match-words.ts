import type { LooseMatch } from '@/core/data/join'

/** In which way keys that differ are taken for the same, behind their number. */
export const wayWords: Record<LooseMatch, string> = {
  loose: 'the same but for zeros, blanks, case or punctuation',
  codes: 'codes or names of the same country',
  words: 'the same but for common words',
}
