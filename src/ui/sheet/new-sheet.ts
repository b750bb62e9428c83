'use client'
import { nanoid } from 'nanoid'
import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
import { fitMap, roundScale } from '@/core/map/view'
import { LegendSettings } from '@/core/sheet/parts/legend'
import type { Part, PartTypeId, Sheet } from '@/core/sheet/spec'
import { typeStyle } from '@/core/sheet/type-style'

type Box = Part['box']

const part = <T extends PartTypeId>(
  type: T,
  name: string,
  box: Box,
  settings: Extract<Part, { type: T }>['settings'],
): Part => ({ id: nanoid(8), type, name, box, hidden: false, locked: false, settings }) as Part

const words = (
  name: string,
  box: Box,
  {
    text,
    style,
    align = 'left',
  }: { text: string; style: ReturnType<typeof typeStyle>; align?: 'left' | 'right' },
): Part => part('text', name, box, { text, style, align, leading: 1.25 })

export function newPanel(map: MapSpec, datasets: Map<string, Prepared>, box: Box): Part {
  const fitted = fitMap(map, datasets, box) ?? { centre: map.projection.centre, scaleDenominator: 10_000_000 }
  return part('panel', 'Panel', box, {
    mapId: map.id,
    view: { ...fitted, scaleDenominator: roundScale(fitted.scaleDenominator) },
    frame: { colour: '#8a979c', widthPt: 0 },
  })
}

const newLegend = (box: Box): Part =>
  part(
    'legend',
    'Legend',
    box,
    LegendSettings.parse({
      panelId: null,
      words: {},
      hiddenLines: [],
      lowFirst: true,
      heading: typeStyle('source-sans-3', 9.5, { weight: 600 }),
      label: typeStyle('source-sans-3', 8.5),
      swatchWidthMm: 9,
      swatchHeightMm: 5,
      gapMm: 0,
      background: null,
      paddingMm: 0,
    }),
  )

const newScaleBar = (box: Box): Part =>
  part('scale-bar', 'Scale bar', box, {
    panelId: null,
    units: 'metric',
    look: 'line',
    style: typeStyle('source-sans-3', 7),
  })

/** A new part of a type, placed where there is usually room for it. */
export function newPart(
  type: PartTypeId,
  sheet: Sheet,
  map: MapSpec | undefined,
  datasets: Map<string, Prepared>,
): Part | null {
  const { page, margins } = sheet
  const inner = {
    x: margins.left,
    y: margins.top,
    width: page.widthMm - margins.left - margins.right,
    height: page.heightMm - margins.top - margins.bottom,
  }
  switch (type) {
    case 'panel':
      return map
        ? newPanel(map, datasets, {
            x: inner.x + inner.width * 0.25,
            y: inner.y + inner.height * 0.25,
            width: inner.width / 2,
            height: inner.height / 2,
          })
        : null
    case 'legend':
      return newLegend({ x: inner.x + 5, y: inner.y + inner.height * 0.2, width: 55, height: 40 })
    case 'scale-bar':
      return newScaleBar({
        x: inner.x + inner.width - 60,
        y: inner.y + inner.height - 18,
        width: 45,
        height: 6,
      })
    case 'text':
      return words(
        'Text',
        { x: inner.x, y: inner.y, width: Math.min(80, inner.width), height: 6 },
        { text: 'Text', style: typeStyle('source-sans-3', 10) },
      )
  }
}

/** A sheet that is already composed: title, map, legend, scale bar and source note. */
export function newSheet(map: MapSpec | undefined, datasets: Map<string, Prepared>, name: string): Sheet {
  const page = { widthMm: 297, heightMm: 210 }
  const margins = { top: 12, right: 12, bottom: 10, left: 12 }
  const width = page.widthMm - margins.left - margins.right
  const parts: Part[] = []
  if (map) {
    parts.push(newPanel(map, datasets, { x: margins.left, y: 32, width, height: 160 }))
    parts.push(newLegend({ x: margins.left + 5, y: 38, width: 55, height: 40 }))
    parts.push(newScaleBar({ x: page.widthMm - margins.right - 52, y: 182, width: 40, height: 6 }))
  }
  parts.push(
    words(
      'Title',
      { x: margins.left, y: 11, width, height: 12 },
      { text: map?.name ?? name, style: typeStyle('source-serif-4', 24, { weight: 600 }) },
    ),
  )
  parts.push(
    words(
      'Source note',
      { x: margins.left, y: 194.5, width, height: 4 },
      {
        text: 'Source: {{credits}}. {{projection}}, {{scale}}.',
        style: typeStyle('source-sans-3', 7, { colour: '#4a4a4a' }),
      },
    ),
  )
  return { id: nanoid(8), name, page, margins, background: '#ffffff', parts }
}
