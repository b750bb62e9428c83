import { readFileSync } from 'node:fs'
import { createCanvas } from '@napi-rs/canvas'
import type { Draft } from 'immer'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import { deltaOf, withDelta } from '@/core/folio/delta'
import { edit, startHistory, type History } from '@/core/folio/history'
import type { Folio } from '@/core/folio/schema'
import { emptyFolio } from '@/core/folio/empty-folio'
import type { MapSpec } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { mmPerPx, pxPerMm } from '@/core/scene/units'
import { composeSheet, sheetFonts, type SheetInput } from '@/core/sheet/compose-sheet'
import { textPart } from '@/core/sheet/new-sheet'
import { panelOf } from '@/core/sheet/parts/panel'
import { makePart } from '@/core/sheet/registry'
import { makeSheet, type Sheet } from '@/core/sheet/spec'
import { readFolioFile } from '@/formats/folio-file/folio-file'
import { createPartPictures, drawSceneByParts } from '@/render/canvas/part-pictures'
import { createPathCache } from '@/render/canvas/path-cache'
import type { Context } from '@/render/canvas/surface'
import { fontBookOf } from '@/render/font-files'
import { nodeSurface } from '@/render/raster/bitmap'
import { largeCountry } from '../demo/lindmere/large'
import { mapOf } from './drawing'
import { interleaved, type Ratio } from './measure'

const page = { widthMm: 297, heightMm: 210 }

/** A page with one large panel and a line of text beneath it. */
function sheetOf(map: MapSpec, datasets: Map<string, Prepared>): Sheet {
  const box = { x: 10, y: 20, width: 277, height: 170 }
  const view = fitMap(map, datasets, box)
  if (!view) throw new Error('The map has no extent.')
  const panel = makePart(
    'panel',
    { id: 'panel', name: 'Panel', box },
    { ...panelOf(map, datasets, box), view },
  )
  const text = textPart(
    { id: 'text', name: 'Text', box: { x: 10, y: 195, width: 100, height: 5 } },
    { text: 'Words', style: 'body' },
  )
  const margins = { top: 10, right: 10, bottom: 10, left: 10 }
  return makeSheet({ id: 's', name: 'S', page, margins, parts: [panel, text] })
}

/** A folio on either side of a message, as the page and its worker hold it. */
function bothSides(folio: Folio) {
  let history: History = startHistory(folio)
  let there = structuredClone(folio)
  return {
    /** Makes an edit here and sends what changed; gives the folio as it has arrived. */
    edit(recipe: (draft: Draft<Folio>) => void): Folio {
      const before = history.folio
      history = edit(history, 'Edit', recipe, 'edit')
      const delta = structuredClone(deltaOf(before, history.folio))
      there = delta ? (withDelta(there, delta) as Folio) : there
      return there
    },
  }
}

const area = (topology: ReturnType<typeof largeCountry>) => {
  const { map, datasets } = mapOf(topology)
  return { spec: map(0), restyled: map, datasets }
}

/** Moving a part, and restyling a map, from the edit to the painted page, against the first time. */
export function sheetRatios(): Ratio[] {
  const topology = largeCountry(20_000, 600_000)
  const { spec, restyled, datasets } = area(topology)
  const sheet = sheetOf(spec, datasets)
  const folio: Folio = { ...emptyFolio('f', 'F'), maps: [spec], sheets: [sheet] }
  const fonts = fontBookOf(sheetFonts(sheet, [spec]))
  const inputOf = ({ sheets, maps }: Folio, rows = datasets): SheetInput => ({
    sheet: sheets[0],
    maps,
    datasets: rows,
    fonts,
    folioName: '',
    author: '',
    date: new Date(0),
    toleranceMm: 0.3 / pxPerMm,
  })
  const [widthPx, heightPx] = [Math.round(page.widthMm * pxPerMm), Math.round(page.heightMm * pxPerMm)]
  const painter = () => {
    const [paths, pictures] = [createPathCache(), createPartPictures()]
    return (input: SheetInput) => {
      const context = createCanvas(widthPx, heightPx).getContext('2d')
      const options = { surface: nodeSurface, fonts, paths, pixelsPerMm: 1 / mmPerPx, widthPx, heightPx }
      drawSceneByParts(context as unknown as Context, composeSheet(input), options, pictures)
      context.getImageData(0, 0, 1, 1)
    }
  }
  let fresh = area(topology)
  const paint = painter()
  const here = bothSides(folio)
  paint(inputOf(here.edit((draft) => void (draft.sheets[0].parts[1].box.x = 11))))
  let n = 0
  const text = (draft: Draft<Folio>) => draft.sheets[0].parts[1].box
  const times = interleaved({
    composedFirst: {
      run: () => void composeSheet(inputOf({ ...folio, maps: [fresh.spec] }, fresh.datasets)),
      before: () => void (fresh = area(topology)),
    },
    composedMoved: () =>
      void composeSheet(inputOf(here.edit((draft) => void (text(draft).x = 12 + (++n % 50))))),
    paintedFirst: {
      run: () => painter()(inputOf({ ...folio, maps: [fresh.spec] }, fresh.datasets)),
      before: () => void (fresh = area(topology)),
    },
    paintedMoved: () => paint(inputOf(here.edit((draft) => void (text(draft).x = 12 + (++n % 50))))),
    paintedRestyled: () =>
      paint(inputOf(here.edit((draft) => void (draft.maps[0] = restyled(++n) as Draft<MapSpec>)))),
  })
  const first = (ms: number) => `the first time (${ms.toFixed(0)} ms)`
  return [
    {
      name: 'moving a part, composing',
      ratio: times.composedMoved / times.composedFirst,
      budget: 0.05,
      base: first(times.composedFirst),
    },
    {
      name: 'moving a part, edit to painted page',
      ratio: times.paintedMoved / times.paintedFirst,
      budget: 0.05,
      base: first(times.paintedFirst),
    },
    {
      name: 'restyling, edit to painted page',
      ratio: times.paintedRestyled / times.paintedFirst,
      budget: 0.35,
      base: first(times.paintedFirst),
    },
  ]
}

/** Opening the demo, from the file to the first composed sheet, against parsing its JSON. */
export function openingRatios(): Ratio[] {
  const text = readFileSync('demo/a-country-that-reads.keen.json', 'utf8')
  const fonts = fontBookOf(sheetFonts(...firstOf(readFolioFile(text).folio)))
  const { parsing, opening } = interleaved({
    parsing: () => void JSON.parse(text),
    opening: () => {
      const { folio, contents } = readFolioFile(text)
      const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
      const [sheet, maps] = firstOf(folio)
      const input = { sheet, maps, datasets, fonts, folioName: '', author: '', date: new Date(0) }
      composeSheet({ ...input, toleranceMm: 0.3 / pxPerMm })
    },
  })
  return [
    {
      name: 'opening the demo, to the first sheet',
      ratio: opening / parsing,
      budget: 60,
      base: `parsing its JSON (${parsing.toFixed(0)} ms)`,
    },
  ]
}

const firstOf = (folio: Folio): [Sheet, MapSpec[]] => [folio.sheets[0], folio.maps]
