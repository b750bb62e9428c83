// What the templates that ship are put together from.
import { plainLegend } from '../parts/legend'
import { PanelSettings } from '../parts/panel/spec'
import { plainScaleBar } from '../parts/scale-bar'
import { plainShape } from '../parts/shape'
import { plainText, type TextSettings } from '../parts/text'
import type { PartBox } from '../part'
import { makePart, type Part } from '../registry'
import { makeSheet, type Sheet } from '../spec'
import type { SheetTemplate } from '../template'
import { firstTypeStyles, inStyle, type FirstTypeStyle } from '../type-styles'
import type { TypeStyle } from '../type-style'

type Margins = Sheet['margins']
/** Margins as wide on every side. */
export const even = (mm: number): Margins => ({ top: mm, right: mm, bottom: mm, left: mm })

/** Empty panels wait for a view; this one is never seen. */
const waiting = { centre: [0, 0] as [number, number], scaleDenominator: 10_000_000 }

/** A panel that takes the role it is called by. */
export const panel = (id: string, name: string, box: PartBox, more: Partial<PanelSettings> = {}): Part =>
  makePart(
    'panel',
    { id, name, box },
    PanelSettings.parse({ mapId: null, view: waiting, frame: { colour: '#8a979c', widthPt: 0 }, ...more }),
  )

/** A text in one of the styles that every folio starts with. */
export const words = (
  id: string,
  name: string,
  box: PartBox,
  {
    text,
    style,
    size,
    ...more
  }: { text: string; style: FirstTypeStyle; size?: Partial<TypeStyle> } & Partial<
    Omit<TextSettings, 'style' | 'text'>
  >,
): Part =>
  makePart(
    'text',
    { id, name, box },
    plainText({ text, style: inStyle(style, size ? { ...size, named: null } : {}), ...more }),
  )

/** What the main map shows, as a title. */
export const title = (
  box: PartBox,
  size?: Partial<TypeStyle>,
  more: Partial<Omit<TextSettings, 'style' | 'text'>> = {},
): Part => words('title', 'Title', box, { text: '{{shown}}', style: 'title', size, ...more })
/** What the main map shows it of. */
export const subtitle = (
  box: PartBox,
  size?: Partial<TypeStyle>,
  more: Partial<Omit<TextSettings, 'style' | 'text'>> = {},
): Part =>
  words('subtitle', 'Subtitle', box, {
    text: '{{where}}',
    style: 'subtitle',
    size,
    ...more,
  })
/** The credits, the projection and the scale. */
export const source = (
  box: PartBox,
  more: Partial<Omit<TextSettings, 'style' | 'text'>> = {},
  size?: Partial<TypeStyle>,
): Part =>
  words('source', 'Source note', box, {
    text: 'Source: {{credits}}. {{projection}}, {{scale}}.',
    style: 'note',
    size,
    ...more,
  })
/** The legend of the main panel. */
export const legend = (box: PartBox, more: Parameters<typeof plainLegend>[0] = {}): Part =>
  makePart('legend', { id: 'legend', name: 'Legend', box }, plainLegend({ panelId: 'main', ...more }))
/** The scale bar of the main panel. */
export const bar = (box: PartBox, more: Parameters<typeof plainScaleBar>[0] = {}): Part =>
  makePart('scale-bar', { id: 'bar', name: 'Scale bar', box }, plainScaleBar({ panelId: 'main', ...more }))
/** A line from one side of its box to the other. */
export const rule = (id: string, box: PartBox, widthPt = 0.5, colour = '#1b1b1b'): Part =>
  makePart(
    'shape',
    { id, name: 'Rule', box },
    plainShape({
      form: 'line',
      points: [
        [0, 0.5],
        [1, 0.5],
      ],
      line: { colour, widthPt, dash: 'solid', cap: 'butt', join: 'miter' },
    }),
  )

/** A locator in a corner of the main panel. */
export const locator = (box: PartBox, of = 'main'): Part =>
  panel('locator', 'Locator', box, {
    shape: { by: 'ellipse' },
    frame: { colour: '#4a4a4a', widthPt: 0.75, more: [] },
    footprints: [
      { panelId: of, fill: '#9c1f5e', fillOpacity: 0.2, colour: '#9c1f5e', widthPt: 1, joined: false },
    ],
  })

/** A template as it ships. */
export const template = (
  id: string,
  name: string,
  about: string,
  sheet: Pick<Sheet, 'page' | 'margins' | 'parts'> & Partial<Sheet>,
): SheetTemplate => ({
  format: 'keen-template',
  version: 1,
  id,
  name,
  about,
  sheet: makeSheet({ ...sheet, id: 'template', name }),
  typeStyles: firstTypeStyles(),
  pictures: [],
})
