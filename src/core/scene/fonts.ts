/** A typeface of the catalogue, asked for by family, weight and slope. */
export type TextFont = { family: FontFamily; weight: FontWeight; italic: boolean }

type FamilyEntry = {
  label: string
  weights: number[]
  italics: boolean
  kind: 'sans' | 'serif' | 'condensed'
}

/**
 * The typefaces for maps and sheets that ship with the application. The key is the package and file name
 * stem.
 */
export const fontFamilies = {
  'source-sans-3': { label: 'Source Sans 3', weights: [300, 400, 600, 700], italics: true, kind: 'sans' },
  'source-serif-4': { label: 'Source Serif 4', weights: [300, 400, 600, 700], italics: true, kind: 'serif' },
  'ibm-plex-sans': { label: 'IBM Plex Sans', weights: [300, 400, 600, 700], italics: true, kind: 'sans' },
  'ibm-plex-sans-condensed': {
    label: 'IBM Plex Sans Condensed',
    weights: [300, 400, 600, 700],
    italics: true,
    kind: 'condensed',
  },
  'libre-franklin': { label: 'Libre Franklin', weights: [300, 400, 600, 700], italics: true, kind: 'sans' },
  barlow: { label: 'Barlow', weights: [300, 400, 600, 700], italics: true, kind: 'condensed' },
  'fira-sans': { label: 'Fira Sans', weights: [300, 400, 600, 700], italics: true, kind: 'sans' },
  'noto-sans': { label: 'Noto Sans', weights: [300, 400, 600, 700], italics: true, kind: 'sans' },
  'alegreya-sans': { label: 'Alegreya Sans', weights: [300, 400, 700], italics: true, kind: 'sans' },
  alegreya: { label: 'Alegreya', weights: [400, 600, 700], italics: true, kind: 'serif' },
  'eb-garamond': { label: 'EB Garamond', weights: [400, 600, 700], italics: true, kind: 'serif' },
  'noto-serif': { label: 'Noto Serif', weights: [300, 400, 600, 700], italics: true, kind: 'serif' },
  bitter: { label: 'Bitter', weights: [300, 400, 600, 700], italics: true, kind: 'serif' },
} as const satisfies Record<string, FamilyEntry>

export type FontFamily = keyof typeof fontFamilies
export type FontWeight = 300 | 400 | 600 | 700
export const fontFamilyIds = Object.keys(fontFamilies) as FontFamily[]

const subsets = ['latin', 'latin-ext'] as const

/** The files that together hold one face; earlier ones are tried first for each character. */
export function faceFiles(font: TextFont): string[] {
  const family: FamilyEntry = fontFamilies[font.family]
  const weight = nearest(family.weights, font.weight)
  return subsets.map(
    (subset) =>
      `${font.family}-${subset}-${weight}-${font.italic && family.italics ? 'italic' : 'normal'}.woff`,
  )
}

/** The package family a face file belongs to, or null for a name that is not in the catalogue. */
export function familyOfFile(file: string): FontFamily | null {
  const match = /^([a-z0-9-]+?)-(latin|latin-ext)-(\d00)-(normal|italic)\.woff$/.exec(file)
  return match && match[1] in fontFamilies ? (match[1] as FontFamily) : null
}

const nearest = (weights: readonly number[], wanted: number): number =>
  weights.reduce((best, w) => (Math.abs(w - wanted) < Math.abs(best - wanted) ? w : best))
