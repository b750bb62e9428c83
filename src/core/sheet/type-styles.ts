import { typeStyle, type NamedTypeStyle, type TypeStyle } from './type-style'

const quiet = '#4a4a4a'

/** The type styles that a folio starts with, by id. */
const first = {
  title: { name: 'Title', style: typeStyle('source-serif-4', 24, { weight: 600 }) },
  subtitle: { name: 'Subtitle', style: typeStyle('source-sans-3', 10.5, { colour: quiet }) },
  heading: { name: 'Heading', style: typeStyle('source-sans-3', 12, { weight: 600 }) },
  body: { name: 'Body', style: typeStyle('source-sans-3', 10) },
  'legend-heading': { name: 'Legend heading', style: typeStyle('source-sans-3', 9.5, { weight: 600 }) },
  'legend-label': { name: 'Legend label', style: typeStyle('source-sans-3', 8.5) },
  caption: { name: 'Caption', style: typeStyle('source-sans-3', 7) },
  note: { name: 'Note', style: typeStyle('source-sans-3', 7, { colour: quiet }) },
} as const satisfies Record<string, { name: string; style: TypeStyle }>

export type FirstTypeStyle = keyof typeof first

/** The named styles of a new folio. */
export const firstTypeStyles = (): NamedTypeStyle[] =>
  Object.entries(first).map(([id, { name, style }]) => ({ id, name, style: { ...style } }))

/** A piece of lettering in one of the styles that every folio starts with. */
export const inStyle = (id: FirstTypeStyle, more: Partial<TypeStyle> = {}): TypeStyle => ({
  ...first[id].style,
  named: id,
  ...more,
})

/** A style as it is set: that of the folio where it has the name of one, else its own. */
export function resolvedStyle(style: TypeStyle, named: readonly NamedTypeStyle[]): TypeStyle {
  const known = style.named === null ? undefined : named.find(({ id }) => id === style.named)
  return known ? { ...known.style, named: style.named } : style
}
