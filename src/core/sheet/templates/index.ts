import type { SheetTemplate } from '../template'
import { waitingTable } from '../parts/table'
import { makePart } from '../registry'
import { inStyle } from '../type-styles'
import { even, panel, words, title, subtitle, source, legend, bar, rule, locator, template } from './pieces'

const thirds = (433 - 2 * 6) / 3

/** The templates that ship, in the order in which they are offered. */
export const shippedTemplates: readonly SheetTemplate[] = [
  template(
    'report-upright',
    'Report, A4 upright',
    'One map across the column, the legend beneath it, room for a paragraph.',
    {
      page: { widthMm: 210, heightMm: 297 },
      margins: { top: 20, right: 20, bottom: 18, left: 25 },
      parts: [
        panel(
          'main',
          'Main map',
          { x: 25, y: 48, width: 165, height: 165 },
          { frame: { colour: '#8a979c', widthPt: 0.5, more: [] } },
        ),
        title({ x: 25, y: 20, width: 165, height: 10 }, { sizePt: 20 }),
        subtitle({ x: 25, y: 34, width: 165, height: 5 }),
        rule('rule', { x: 25, y: 44, width: 165, height: 0.5 }),
        legend({ x: 25, y: 218, width: 78, height: 34 }),
        words(
          'text',
          'Paragraph',
          { x: 110, y: 218, width: 80, height: 30 },
          { text: 'What is to be seen on the map, and why it is so.', style: 'body' },
        ),
        bar({ x: 25, y: 266, width: 45, height: 6 }),
        source({ x: 25, y: 275, width: 165, height: 4 }),
      ],
    },
  ),
  template(
    'report-landscape',
    'Report, A4 landscape',
    'The map on the left, title, legend and words in a column beside it.',
    {
      page: { widthMm: 297, heightMm: 210 },
      margins: even(15),
      parts: [
        panel('main', 'Main map', { x: 15, y: 15, width: 185, height: 172 }),
        title({ x: 207, y: 14, width: 75, height: 20 }, { sizePt: 19 }, { leading: 1.1 }),
        subtitle({ x: 207, y: 44, width: 75, height: 10 }),
        rule('rule', { x: 207, y: 60, width: 75, height: 0.5 }),
        legend({ x: 207, y: 66, width: 75, height: 50 }),
        words(
          'text',
          'Paragraph',
          { x: 207, y: 128, width: 75, height: 30 },
          { text: 'What is to be seen on the map, and why it is so.', style: 'body' },
        ),
        bar({ x: 207, y: 178, width: 45, height: 6 }),
        source({ x: 15, y: 190, width: 267, height: 4 }),
      ],
    },
  ),
  template(
    'atlas',
    'Atlas page, A3',
    'A framed map on the whole page, a locator in its corner, everything else at the foot.',
    {
      page: { widthMm: 420, heightMm: 297 },
      margins: even(16),
      bleedMm: 3,
      parts: [
        panel(
          'main',
          'Main map',
          { x: 16, y: 34, width: 388, height: 224 },
          {
            frame: {
              colour: '#1b1b1b',
              widthPt: 1.25,
              more: [{ colour: '#1b1b1b', widthPt: 0.4, gapPt: 2 }],
            },
          },
        ),
        locator({ x: 362, y: 38, width: 36, height: 36 }),
        title({ x: 16, y: 14, width: 280, height: 12 }, { sizePt: 30 }),
        words(
          'folio',
          'Folio',
          { x: 304, y: 19, width: 100, height: 5 },
          { text: '{{folio}} · {{page}}', style: 'subtitle', align: 'right' },
        ),
        legend(
          { x: 16, y: 263, width: 250, height: 16 },
          { form: 'lying', labelsAt: 'limits', swatchWidthMm: 24 },
        ),
        makePart(
          'north-arrow',
          { id: 'north', name: 'North arrow', box: { x: 290, y: 262, width: 16, height: 18 } },
          {
            panelId: 'main',
            look: 'rose',
            north: 'true',
            dark: '#1b1b1b',
            light: '#ffffff',
            lineWidthPt: 0.4,
            letter: 'N',
            style: inStyle('heading'),
          },
        ),
        bar(
          { x: 318, y: 265, width: 80, height: 6 },
          { look: 'rows', heightMm: 1.8, segments: { right: 4, left: 4 } },
        ),
        source({ x: 16, y: 283, width: 388, height: 4 }),
      ],
    },
  ),
  template(
    'three-thirds',
    'Three thirds upright',
    'Three maps, each an exact third of a tall page of 457 × 610 mm.',
    {
      page: { widthMm: 457, heightMm: 610 },
      margins: even(12),
      bleedMm: 3,
      background: '#f4f1ea',
      parts: [
        ...['First map', 'Second map', 'Third map'].map((name, i) =>
          panel(i === 0 ? 'main' : `third-${i + 1}`, name, {
            x: 12 + i * (thirds + 6),
            y: 70,
            width: thirds,
            height: 500,
          }),
        ),
        title(
          { x: 12, y: 18, width: 433, height: 24 },
          { sizePt: 64, letterSpacingPt: 8 },
          { align: 'centre' },
        ),
        subtitle({ x: 12, y: 52, width: 433, height: 8 }, { sizePt: 18 }, { align: 'centre' }),
        legend({ x: 20, y: 520, width: 90, height: 40 }, { background: '#ffffff', paddingMm: 3 }),
        source({ x: 245, y: 577, width: 200, height: 5 }, { align: 'right' }, { sizePt: 9 }),
      ],
    },
  ),
  template(
    'column',
    'Newspaper column, 85 mm',
    'One column wide: a short heading, a map, a lying legend, a source in small type.',
    {
      page: { widthMm: 85, heightMm: 128 },
      margins: even(2),
      parts: [
        rule('rule', { x: 2, y: 2, width: 81, height: 0.5 }, 1.5),
        title({ x: 2, y: 5, width: 81, height: 7 }, { sizePt: 13, family: 'source-sans-3', weight: 700 }),
        subtitle({ x: 2, y: 12, width: 81, height: 8 }, { sizePt: 8.5 }),
        panel('main', 'Main map', { x: 2, y: 22, width: 81, height: 82 }),
        legend(
          { x: 2, y: 107, width: 81, height: 12 },
          { form: 'lying', labelsAt: 'limits', swatchWidthMm: 13, swatchHeightMm: 3.5 },
        ),
        source({ x: 2, y: 122, width: 81, height: 4 }, {}, { sizePt: 5.5 }),
      ],
    },
  ),
  template(
    'half-page',
    'Newspaper half page',
    'The map over four columns, the words in a column on the left.',
    {
      page: { widthMm: 284, heightMm: 200 },
      margins: even(3),
      parts: [
        rule('rule', { x: 3, y: 3, width: 278, height: 0.5 }, 2),
        title(
          { x: 3, y: 8, width: 66, height: 30 },
          { sizePt: 22, family: 'source-sans-3', weight: 700 },
          { leading: 1.05 },
        ),
        subtitle({ x: 3, y: 45, width: 62, height: 15 }),
        legend({ x: 3, y: 66, width: 62, height: 50 }),
        bar({ x: 3, y: 180, width: 45, height: 6 }),
        source({ x: 3, y: 190, width: 278, height: 4 }, { align: 'right' }, { sizePt: 6 }),
        panel('main', 'Main map', { x: 72, y: 8, width: 209, height: 178 }),
      ],
    },
  ),
  template('slide', 'Slide, 16:9', 'Large type, few words, the map on the right.', {
    page: { widthMm: 338.7, heightMm: 190.5 },
    margins: even(14),
    parts: [
      panel('main', 'Main map', { x: 130, y: 0, width: 208.7, height: 190.5 }),
      title(
        { x: 14, y: 24, width: 108, height: 40 },
        { sizePt: 32, family: 'source-sans-3', weight: 700 },
        { leading: 1.05 },
      ),
      subtitle({ x: 14, y: 78, width: 108, height: 20 }, { sizePt: 16 }),
      legend(
        { x: 14, y: 108, width: 100, height: 50 },
        {
          heading: inStyle('legend-heading', { sizePt: 14, named: null }),
          label: inStyle('legend-label', { sizePt: 13, named: null }),
          swatchWidthMm: 14,
          swatchHeightMm: 8,
        },
      ),
      source({ x: 14, y: 178, width: 110, height: 5 }, {}, { sizePt: 8 }),
    ],
  }),
  template(
    'poster',
    'Poster, A1',
    'A dark poster: the map to the edges, a wide title with a glow, insets at the foot.',
    {
      page: { widthMm: 594, heightMm: 841 },
      margins: even(30),
      bleedMm: 5,
      background: '#10161d',
      parts: [
        panel('main', 'Main map', { x: 0, y: 0, width: 594, height: 841 }),
        makePart(
          'shade',
          { id: 'shade', name: 'Dark edges', box: { x: 0, y: 0, width: 594, height: 841 }, locked: true },
          {
            fill: {
              by: 'inward',
              widthMm: 90,
              stops: [
                { at: 0, colour: '#10161d', opacity: 0.9 },
                { at: 1, colour: '#10161d', opacity: 0 },
              ],
              bands: 0,
            },
            cornerMm: 0,
          },
        ),
        title(
          { x: 30, y: 40, width: 534, height: 50 },
          { sizePt: 76, letterSpacingPt: 6, colour: '#f7f3e8' },
          {
            align: 'centre',
            effects: {
              halo: null,
              glow: { colour: '#10161d', radiusMm: 9, strength: 0.85 },
              shadow: null,
              fill: null,
            },
          },
        ),
        subtitle(
          { x: 30, y: 96, width: 534, height: 12 },
          { sizePt: 26, colour: '#d8dde2' },
          { align: 'centre' },
        ),
        panel(
          'inset',
          'Inset',
          { x: 30, y: 640, width: 150, height: 150 },
          {
            shape: { by: 'ellipse' },
            softEdgeMm: 12,
          },
        ),
        legend(
          { x: 424, y: 690, width: 140, height: 90 },
          {
            heading: inStyle('legend-heading', { sizePt: 22, colour: '#f7f3e8', named: null }),
            label: inStyle('legend-label', { sizePt: 19, colour: '#d8dde2', named: null }),
            swatchWidthMm: 20,
            swatchHeightMm: 11,
          },
        ),
        source(
          { x: 264, y: 806, width: 300, height: 6 },
          { align: 'right' },
          { sizePt: 11, colour: '#9aa3ad' },
        ),
      ],
    },
  ),
  template(
    'compared',
    'Two maps compared, A4',
    'Two maps beside each other at one scale, with one legend for both.',
    {
      page: { widthMm: 297, heightMm: 210 },
      margins: { top: 12, right: 12, bottom: 10, left: 12 },
      parts: [
        panel('main', 'First map', { x: 12, y: 44, width: 133, height: 122 }),
        panel(
          'second',
          'Second map',
          { x: 152, y: 44, width: 133, height: 122 },
          { sameScaleAs: 'main', samePlaceAs: 'main' },
        ),
        title({ x: 12, y: 11, width: 273, height: 12 }),
        subtitle({ x: 12, y: 24, width: 273, height: 5 }),
        words(
          'first-name',
          'Name of the first',
          { x: 12, y: 36, width: 133, height: 6 },
          { text: 'First', style: 'heading' },
        ),
        words(
          'second-name',
          'Name of the second',
          { x: 152, y: 36, width: 133, height: 6 },
          { text: 'Second', style: 'heading' },
        ),
        legend(
          { x: 12, y: 170, width: 150, height: 16 },
          { form: 'lying', labelsAt: 'limits', swatchWidthMm: 20 },
        ),
        bar({ x: 235, y: 176, width: 45, height: 6 }),
        source({ x: 12, y: 194, width: 273, height: 4 }),
      ],
    },
  ),
  template(
    'square',
    'Square, 200 mm',
    'For screens and feeds: large type, the map, its legend, nothing else.',
    {
      page: { widthMm: 200, heightMm: 200 },
      margins: even(10),
      parts: [
        title(
          { x: 10, y: 9, width: 180, height: 12 },
          { sizePt: 26, family: 'source-sans-3', weight: 700 },
          { leading: 1.05 },
        ),
        subtitle({ x: 10, y: 26, width: 180, height: 6 }, { sizePt: 13 }),
        panel('main', 'Main map', { x: 10, y: 36, width: 180, height: 126 }),
        legend(
          { x: 10, y: 166, width: 180, height: 18 },
          {
            form: 'lying',
            labelsAt: 'limits',
            swatchWidthMm: 22,
            swatchHeightMm: 5,
            heading: inStyle('legend-heading', { sizePt: 11, named: null }),
            label: inStyle('legend-label', { sizePt: 10, named: null }),
          },
        ),
        source({ x: 10, y: 189, width: 180, height: 4 }, {}, { sizePt: 7 }),
      ],
    },
  ),
  template(
    'four-years',
    'Four years, A4',
    'The map in four years of its series, one legend for all of them.',
    {
      page: { widthMm: 297, heightMm: 210 },
      margins: { top: 12, right: 12, bottom: 10, left: 12 },
      parts: [
        title({ x: 12, y: 11, width: 273, height: 12 }),
        subtitle({ x: 12, y: 24, width: 273, height: 5 }),
        ...[0, 1, 2, 3].map((i) =>
          panel(
            i ? `year-${i + 1}` : 'main',
            'Map of years',
            { x: 12 + (i % 2) * 105, y: 34 + Math.floor(i / 2) * 79, width: 101, height: 75 },
            {
              ...(i > 0 && { sameScaleAs: 'main', samePlaceAs: 'main' }),
              variant: { by: 'year', layerId: '', year: i },
              captioned: true,
            },
          ),
        ),
        legend({ x: 226, y: 36, width: 59, height: 60 }),
        bar({ x: 226, y: 176, width: 45, height: 6 }),
        source({ x: 12, y: 195, width: 273, height: 4 }),
      ],
    },
  ),
  template('with-table', 'Map with a table, A4', 'The map beside the ten largest figures behind it.', {
    page: { widthMm: 297, heightMm: 210 },
    margins: { top: 12, right: 12, bottom: 10, left: 12 },
    parts: [
      title({ x: 12, y: 11, width: 273, height: 12 }),
      subtitle({ x: 12, y: 24, width: 273, height: 5 }),
      panel('main', 'Main map', { x: 12, y: 34, width: 176, height: 154 }),
      legend({ x: 196, y: 36, width: 89, height: 50 }),
      makePart(
        'table',
        { id: 'table', name: 'Table', box: { x: 196, y: 104, width: 89, height: 62 } },
        waitingTable(),
      ),
      bar({ x: 240, y: 180, width: 45, height: 6 }),
      source({ x: 12, y: 195, width: 273, height: 4 }),
    ],
  }),
]
