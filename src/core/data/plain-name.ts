/** Words that say what a place is, not which. */
const commonWords = [
  ...['the', 'of', 'and', 'republic', 'kingdom', 'state', 'states', 'federation'],
  ...['federal', 'democratic', 'islamic', 'united', 'principality', 'grand', 'duchy', 'county'],
  ...['district', 'province', 'region', 'city', 'municipality'],
].join('|')

/** Words that names of countries and places have in one table and not in another. */
const plainWords: [RegExp, string][] = [
  [/\bst\.?(?=\s)/g, 'saint'],
  [/\bste\.?(?=\s)/g, 'sainte'],
  [/\bmt\.?(?=\s)/g, 'mount'],
  [/\bis\.(?=\s|$)/g, 'islands'],
  [/\brep\.?(?=\s|$)/g, 'republic'],
  [/\bdem\.?(?=\s|$)/g, 'democratic'],
  [/&/g, ' and '],
  [/\([^)]*\)|\[[^\]]*\]/g, ' '],
  [/[^\p{L}\p{N}]+/gu, ' '],
  [new RegExp(String.raw`\b(?:${commonWords})\b`, 'g'), ' '],
]

/** A name without accents, case, punctuation and words that say what a place is, its words in order of the alphabet. */
export const plainName = (name: string): string => {
  const words = plainWords.reduce(
    (text, [what, by]) => text.replace(what, by),
    name
      .normalize('NFD')
      .replace(/[\u0300-\u036f]/g, '')
      .toLowerCase(),
  )
  return words.split(/\s+/).filter(Boolean).sort().join(' ')
}
