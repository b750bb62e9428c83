import { pick, type Random } from './random'

const starts = [
  'Al',
  'Bren',
  'Cal',
  'Dor',
  'El',
  'Fen',
  'Gar',
  'Hal',
  'Ist',
  'Kel',
  'Lor',
  'Mar',
  'Ner',
  'Os',
  'Pel',
  'Quen',
  'Ros',
  'Sel',
  'Tar',
  'Ul',
  'Ver',
  'Wen',
  'Yar',
  'Zel',
  'Thra',
  'Skor',
  'Bly',
  'Cray',
  'Drum',
  'Eld',
  'Frey',
  'Grim',
  'Hask',
  'Ivel',
  'Jor',
  'Lum',
  'Mor',
  'Nath',
  'Orr',
  'Pry',
  'Rill',
  'Stan',
  'Tolv',
  'Umber',
  'Vint',
  'Wex',
]
const middles = [
  '',
  '',
  '',
  'a',
  'e',
  'o',
  'an',
  'en',
  'er',
  'il',
  'or',
  'ri',
  'la',
  'na',
  'be',
  'di',
  'mi',
  'ne',
]
const ends = [
  'low',
  'quay',
  'stow',
  'mere',
  'wick',
  'holt',
  'ness',
  'by',
  'combe',
  'dell',
  'fell',
  'garth',
  'haven',
  'lisk',
  'marl',
  'nock',
  'ridge',
  'sound',
  'thorpe',
  'vale',
  'wold',
  'yard',
  'brae',
  'cairn',
  'dun',
  'moss',
  'reach',
  'shaw',
  'tarn',
  'weir',
  'inge',
  'arra',
  'ova',
  'esk',
  'und',
  'oss',
]
const before = ['Upper', 'Nether', 'Cold', 'Long', 'Far', 'Little', 'East', 'West', 'Old']
const after = ['Bridge', 'Cross', 'Sands', 'Isle', 'Fell', 'Marsh', 'Wood', 'Head', 'Water']

/** Names that are invented, pronounceable and each used once. */
export function nameMaker(random: Random): { place: () => string; word: () => string } {
  const used = new Set<string>()
  const word = (): string => {
    for (;;) {
      const name = pick(random, starts) + pick(random, middles) + pick(random, ends)
      if (
        name.length > 11 ||
        /[aeiou]{2}[aeiou]|aa|ii|uu|ae[aeio]/.test(name) ||
        /([a-z])\1\1/i.test(name) ||
        used.has(name)
      )
        continue
      used.add(name)
      return name
    }
  }
  const place = (): string => {
    const chance = random()
    const name = word()
    if (chance < 0.1) return `${pick(random, before)} ${name}`
    return chance < 0.2 ? `${name} ${pick(random, after)}` : name
  }
  return { place, word }
}
