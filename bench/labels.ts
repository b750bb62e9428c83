import Flatbush from 'flatbush'
import { placeLabels, type Job } from '@/core/labels/place'
import { besideMark, type Mark } from '@/core/labels/beside'
import { layOutLabel } from '@/core/labels/lettering'
import { plainLabels } from '@/core/labels/spec'
import { measureLine, type FontBook } from '@/core/scene/text'
import { fontBookOf } from '@/render/font-files'
import { pointsToMm } from '@/core/scene/units'
import { interleaved, type Ratio } from './measure'

const [width, height, count] = [400, 280, 1000]
const syllables = [
  'har',
  'row',
  'mouth',
  'el',
  'low',
  'ti',
  'zel',
  'mar',
  'brae',
  'wick',
  'thor',
  'pe',
  'lin',
  'mere',
  'stan',
  'holt',
]
const settings = plainLabels('name', 'points', { sizePt: 6 })
const face = [{ family: 'source-sans-3' as const, weight: 400 as const, italic: false }]

const scattered = (i: number, salt: number): number => {
  const value = Math.sin(i * 12.9898 + salt * 78.233) * 43758.5453
  return value - Math.floor(value)
}
const name = (i: number, run: number): string =>
  [1, 2, 3].map((salt) => syllables[Math.floor(16 * scattered(i + 7919 * run, salt))]).join('')

/** 1,000 labels placed, against measuring them and testing all pairs through a spatial index. */
export function labelRatios(): Ratio[] {
  const marks = Array.from({ length: count }, (_, i): Mark => ({
    feature: i,
    x: width * scattered(i, 4),
    y: height * scattered(i, 5),
    left: 0.5,
    up: 0.5,
    right: 0.5,
    down: 0.5,
  }))
  const boxes = marks.map(({ x, y }): [number, number, number, number] => [
    x - 0.5,
    y - 0.5,
    x + 0.5,
    y + 0.5,
  ])
  let run = 0
  // Lines that were measured are kept: every run has a book of its own and other names.
  let fonts: FontBook = fontBookOf(face)
  const afresh = (): void => {
    fonts = fontBookOf(face)
    measureLine(fonts, 'warm', { font: face[0], sizeMm: 2, letterSpacingMm: 0 })
    run++
  }
  let pairs = 0
  const measured = (): void => {
    const sizeMm = pointsToMm(settings.sizePt)
    const places = marks.map(({ x, y }, i): [number, number, number, number] => {
      const { widthMm } = measureLine(fonts, name(i, run), { font: face[0], sizeMm, letterSpacingMm: 0 })
      return [x, y - sizeMm / 2, x + widthMm, y + sizeMm / 2]
    })
    const index = new Flatbush(places.length)
    for (const box of places) index.add(...box)
    index.finish()
    pairs = places.reduce((sum, box) => sum + index.search(...box).length, 0)
  }
  let placed = 0
  const placing = (): void => {
    const jobs = marks.map((mark, i): Job => ({
      fixed: false,
      ownMark: i,
      candidates: () =>
        besideMark(
          fonts,
          layOutLabel(fonts, name(i, run), settings, { sizePt: settings.sizePt }),
          settings,
          mark,
        ),
    }))
    placed = placeLabels(jobs, boxes, { x: 0, y: 0, width, height }).filter(
      ({ candidate }) => candidate,
    ).length
  }
  for (const warm of [measured, placing]) {
    afresh()
    warm()
  }
  const { base, took } = interleaved({
    base: { run: measured, before: afresh },
    took: { run: placing, before: afresh },
  })
  console.log(
    `1,000 labels: ${placed} placed in ${took.toFixed(1)} ms; measured with ${pairs} pairs in ${base.toFixed(1)} ms`,
  )
  return [
    {
      name: 'placing 1,000 labels',
      ratio: took / base,
      budget: 3,
      base: `measuring them and testing all pairs (${base.toFixed(1)} ms)`,
    },
  ]
}
