import './no-eval'
import { expose, transfer } from 'comlink'
import { nanoid } from 'nanoid'
import { describeChains, type Chain, type Prepared } from '@/core/data/prepare'
import { withDelta, type Delta } from '@/core/folio/delta'
import type { Folio } from '@/core/folio/schema'
import { composeLabelledMap } from '@/core/map/compose-map'
import { mapSteps, roughMap } from '@/core/map/layer-plan'
import { distortionFonts, drawDistortion, type DistortionView } from '@/core/map/distortion'
import type { LabelReport } from '@/core/map/label-map'
import { paperTransform, viewProjection } from '@/core/map/view'
import { proofSheet, type ProofLine } from '@/core/proof/registry'
import type { MapSpec, MapView } from '@/core/map/spec'
import type { LegendLine } from '@/core/legend/entries'
import { addFont, createFontBook } from '@/core/scene/text'
import { faceFiles, type TextFont } from '@/core/scene/fonts'
import { walk, type Scene } from '@/core/scene/scene'
import { refsOf } from '@/core/sheet/copies'
import { loadHyphens } from '@/core/sheet/lettering/hyphens'
import { legendFonts } from '@/core/sheet/first-page'
import { newSheet } from '@/core/sheet/new-sheet'
import { pageOf } from '@/core/sheet/page'
import type { PictureContent } from '@/core/sheet/picture'
import type { Sheet } from '@/core/sheet/spec'
import { openPicture } from '@/formats/picture/open'
import { paintSteps } from '@/render/paint-steps'
import { readyPart } from '@/core/sheet/ready-part'
import {
  composeSheet,
  driftOf,
  effectiveBox,
  sheetContext,
  sheetFonts,
  sheetLanguages,
  type SheetInput,
} from '@/core/sheet/compose-sheet'
import { georeferences } from '@/core/sheet/georeference'
import { middleOf } from '@/core/sheet/frame'
import { layOutAmount } from '@/core/sheet/parts/amount/draw'
import type { AmountSettings } from '@/core/sheet/parts/amount/spec'
import { allLines, layOutLegend } from '@/core/sheet/parts/legend'
import { makePart } from '@/core/sheet/registry'
import { mapFonts } from '@/core/sheet/parts/panel'
import type { PartBox } from '@/core/sheet/part'
import { decodePictures, drawScene } from '@/render/canvas/draw'
import { createPartPictures, drawSceneByParts, type PartPictures } from '@/render/canvas/part-pictures'
import { createPathCache } from '@/render/canvas/path-cache'
import { browserSurface } from '@/render/canvas/surface'
import { mmPerPx } from '@/core/scene/units'
import { fetchedTiles } from './fetched-tiles'
import { createReceiver, type Parcel } from './parcels'
import { datasetQuestions } from './dataset-questions'
import { blockQuestions } from './block-questions'
import { tileQuestions } from './tile-questions'
import { layerQuestions } from './layer-questions'
import { inPieces, type Watching } from './pieces'

const fonts = createFontBook()
let receive = createReceiver(fetchedTiles)
const paths = createPathCache()
const partPictures = createPartPictures()
let folio: Folio | null = null
let datasets: Map<string, Prepared> = new Map()

let told = 0
let chains = new Map<string, Chain>()

/** Takes over the folio and its prepared datasets. */
function setFolio(number: number, next: Folio, parcel: Parcel): void {
  receive = createReceiver(fetchedTiles)
  chains = receive(parcel)
  takeOver(number, next, true)
}

/**
 * Takes over what has changed of either: the folio where there is a delta, the datasets where there is a parcel.
 * @throws Error where the message before this one did not arrive
 */
function changeFolio(number: number, delta: Delta | null, parcel: Parcel | null): void {
  if (!folio || number !== told + 1) throw new Error('A message before this one did not arrive.')
  if (parcel) chains = receive(parcel)
  takeOver(number, delta ? (withDelta(folio, delta) as Folio) : folio, parcel !== null)
}

function takeOver(number: number, next: Folio, newRows: boolean): void {
  if (newRows || next.datasets !== folio?.datasets) datasets = describeChains(next.datasets, chains)
  folio = next
  told = number
}

async function loadFonts(wanted: TextFont[]): Promise<void> {
  const files = [...new Set(wanted.flatMap(faceFiles))].filter((file) => !fonts.fonts.has(file))
  await Promise.all(
    files.map(async (file) => {
      const response = await fetch(`/fonts/${file}`)
      if (!response.ok) throw new Error(`The font ${file} could not be loaded.`)
      addFont(fonts, file, new Uint8Array(await response.arrayBuffer()))
    }),
  )
}

async function draw(
  scene: Scene,
  { widthPx, heightPx, pixelsPerMm }: { widthPx: number; heightPx: number; pixelsPerMm: number },
): Promise<ImageBitmap> {
  const canvas = new OffscreenCanvas(Math.max(1, widthPx), Math.max(1, heightPx))
  const context = canvas.getContext('2d')
  if (!context) throw new Error('This browser gives no drawing context.')
  const pictures = await decodePictures(scene, browserSurface)
  drawScene(context, scene, {
    surface: browserSurface,
    fonts,
    pictures,
    paths,
    pixelsPerMm,
    offsetPx: [0, 0],
    widthPx,
    heightPx,
  })
  return canvas.transferToImageBitmap()
}

function distortionOf(
  distortion: DistortionView,
  map: MapSpec,
  view: MapView,
  window: { x: number; y: number; width: number; height: number },
) {
  const projection = viewProjection(map, view)
  return drawDistortion(distortion, projection, paperTransform(projection, view, window), { window, fonts })
}

/** `ratio` is how many pixels of the screen a CSS pixel has. */
type MapWindow = {
  widthPx: number
  heightPx: number
  ratio: number
  distortion?: DistortionView | 'none'
  /** Layers that take long may be shown roughly. */
  first?: boolean
}

/** What is drawn while somebody waits. */
export type Drawn = 'map' | 'sheet'
type Tell = (share: number) => void

/** Which wish for either is the latest; work for one before it is dropped. */
const wishes: Record<Drawn, number> = { map: 0, sheet: 0 }

/** Whoever waits for it does not want it any more. */
function drop(what: Drawn): void {
  wishes[what]++
}

/** Work for the latest wish; nobody may drop what tells nobody how far it is. */
function watched(what: Drawn, tell?: Tell): Watching {
  const mine = wishes[what]
  return { tell, isDropped: () => tell !== undefined && mine !== wishes[what] }
}

/**
 * Makes what the layers of a map need before it can be drawn, hearing other questions in between.
 * @returns whether all is at hand; false where it was dropped
 */
const readyMap = (map: MapSpec, view: MapView | null, watching: Watching): Promise<boolean> =>
  inPieces(() => mapSteps(map, view, datasets), watching)

/** A map as it was drawn; `rough` where some layers are still to be reckoned finely. */
type DrawnMap = { bitmap: ImageBitmap; labels: LabelReport; rough: boolean }

/**
 * A map as it is seen in a window of CSS pixels, with the distortion of its projection on wish. With `first`, layers
 * that take long are shown roughly, if they know how. `tell` hears how far long work is; only whoever gives it may drop
 * it, and gets null then.
 */
async function drawMap(
  wanted: MapSpec,
  view: MapView,
  { widthPx, heightPx, ratio, distortion = 'none', first = false }: MapWindow,
  tell?: Tell,
): Promise<DrawnMap | null> {
  const watching = watched('map', tell)
  const rough = first ? roughMap(wanted, view, datasets) : null
  const map = rough ?? wanted
  if (!(await readyMap(map, view, watching))) return null
  await loadFonts([...mapFonts(map), ...(distortion === 'none' ? [] : distortionFonts)])
  const window = { x: 0, y: 0, width: widthPx * mmPerPx, height: heightPx * mmPerPx }
  const { group, labels } = composeLabelledMap({
    map,
    view,
    window,
    datasets,
    fonts,
    toleranceMm: (0.4 * mmPerPx) / ratio,
  })
  const scene: Scene = {
    widthMm: window.width,
    heightMm: window.height,
    background: map.background,
    title: map.name,
    author: '',
    children: [group, ...(distortion === 'none' ? [] : [distortionOf(distortion, map, view, window)])],
  }
  if (!(await inPieces(() => paintSteps(scene), watching))) return null
  const bitmap = await draw(scene, {
    widthPx: Math.round(widthPx * ratio),
    heightPx: Math.round(heightPx * ratio),
    pixelsPerMm: ratio / mmPerPx,
  })
  return transfer({ bitmap, labels, rough: rough !== null }, [bitmap])
}

const pictures = new Map<string, PictureContent | null>()

/** A picture ready to be drawn; null for one that turns out not to be readable. */
function openedOrNull(entry: Folio['pictures'][number], bytes: Uint8Array): PictureContent | null {
  try {
    return openPicture(entry, bytes)
  } catch {
    return null
  }
}

/** Fetches the pictures that a sheet shows, each once; one that cannot be had is drawn as missing. */
async function loadPictures(sheet: Sheet, of: Folio): Promise<void> {
  const wanted = refsOf(sheet.parts).pictures.filter((id) => !pictures.has(id))
  await Promise.all(
    wanted.map(async (id) => {
      const entry = of.pictures.find((one) => one.id === id)
      if (!entry) return
      const response = await fetch(`/api/pictures/${id}`).catch(() => null)
      // A server that cannot be reached just now is asked again next time.
      if (!response) return
      const bytes = response.ok ? new Uint8Array(await response.arrayBuffer()) : null
      pictures.set(id, bytes ? openedOrNull(entry, bytes) : null)
    }),
  )
}

async function sheetInput(sheetId: string, toleranceMm: number): Promise<SheetInput | null> {
  const sheet = folio?.sheets.find((s) => s.id === sheetId)
  if (!folio || !sheet) return null
  await Promise.all([
    loadFonts(sheetFonts(sheet, folio.maps, folio.typeStyles)),
    loadPictures(sheet, folio),
    loadHyphens(sheetLanguages(sheet)),
  ])
  return {
    sheet,
    maps: folio.maps,
    typeStyles: folio.typeStyles,
    pictures: (id) => pictures.get(id) ?? null,
    datasets,
    fonts,
    folioName: folio.name,
    author: folio.author,
    page: pageOf(folio.sheets, sheetId),
    date: new Date(),
    toleranceMm,
  }
}

/** The space that a part took up, and the width that it had been given. */
/** The space of a part as it was drawn, the width that it was to have, and how far it had followed its place. */
export type DrawnBox = PartBox & { askedWidth: number; drift: [dx: number, dy: number] }

/**
 * The maps of a sheet with all that they need; `rough` takes what is quick, for a picture as small as a stamp. Null
 * where they were dropped.
 */
async function readyMaps(
  sheet: Sheet,
  maps: MapSpec[],
  { rough, watching }: { rough: boolean; watching: Watching },
): Promise<MapSpec[] | null> {
  const shown = new Set(refsOf(sheet.parts).maps)
  const ready: MapSpec[] = []
  for (const map of maps) {
    const taken = (rough && shown.has(map.id) && roughMap(map, null, datasets)) || map
    if (shown.has(map.id) && !(await readyMap(taken, null, watching))) return null
    ready.push(taken)
  }
  return ready
}

/**
 * A sheet at a number of pixels for each millimetre, together with the space that each part really takes up. `tell`
 * hears how far long work is; only whoever gives it may drop it, and gets null then.
 */
async function drawSheet(
  sheetId: string,
  pixelsPerMm: number,
  rough = false,
  tell?: Tell,
): Promise<{ bitmap: ImageBitmap; boxes: Record<string, DrawnBox> } | null> {
  const watching = watched('sheet', tell)
  const asked = await sheetInput(sheetId, 0.3 / pixelsPerMm)
  if (!asked || watching.isDropped()) return null
  const maps = await readyMaps(asked.sheet, asked.maps, { rough, watching })
  if (!maps) return null
  const input = { ...asked, maps }
  const context = sheetContext(input)
  const scene = composeSheet(input, context)
  if (!(await inPieces(() => paintSteps(scene), watching))) return null
  const bitmap = await drawParts(scene, pixelsPerMm, partPictures)
  const boxes = Object.fromEntries(
    input.sheet.parts.map((part) => [
      part.id,
      { ...effectiveBox(part, context), askedWidth: part.box.width, drift: driftOf(part, context) },
    ]),
  )
  return transfer({ bitmap, boxes }, [bitmap])
}

/** A sheet that is in no folio yet, as it would be drawn in this one. */
async function previewSheet(
  sheet: Sheet,
  typeStyles: Folio['typeStyles'],
  widthPx: number,
): Promise<ImageBitmap | null> {
  if (!folio) return null
  const pixelsPerMm = widthPx / sheet.page.widthMm
  await Promise.all([
    loadFonts(sheetFonts(sheet, folio.maps, typeStyles)),
    loadPictures(sheet, folio),
    loadHyphens(sheetLanguages(sheet)),
  ])
  const maps = await readyMaps(sheet, folio.maps, { rough: false, watching: watched('sheet') })
  if (!maps) return null
  const input: SheetInput = {
    sheet,
    maps,
    typeStyles,
    pictures: (id) => pictures.get(id) ?? null,
    datasets,
    fonts,
    folioName: folio.name,
    author: folio.author,
    date: new Date(),
    toleranceMm: 0.5 / pixelsPerMm,
  }
  const bitmap = await drawParts(composeSheet(input), pixelsPerMm, partPictures)
  return transfer(bitmap, [bitmap])
}

/** A sheet drawn part by part: those that are as they were are not painted again. */
async function drawParts(scene: Scene, pixelsPerMm: number, kept: PartPictures): Promise<ImageBitmap> {
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(scene.widthMm * pixelsPerMm)),
    Math.max(1, Math.round(scene.heightMm * pixelsPerMm)),
  )
  const context = canvas.getContext('2d')
  if (!context) throw new Error('This browser gives no drawing context.')
  const pictures = await decodePictures(scene, browserSurface)
  const options = { surface: browserSurface, fonts, pictures, paths, pixelsPerMm }
  drawSceneByParts(context, scene, { ...options, widthPx: canvas.width, heightPx: canvas.height }, kept)
  return canvas.transferToImageBitmap()
}

export type LegendLinePlace = {
  key: string
  text: string
  proposed: string
  role: LegendLine['role']
  /** Left end of the words on the page, mm. */
  textX: number
  box: PartBox
}

/** Where the lines of a legend lie on the page, for editing their words in place. */
async function legendLines(sheetId: string, partId: string): Promise<LegendLinePlace[]> {
  const input = await sheetInput(sheetId, 0.1)
  const part = input?.sheet.parts.find((p) => p.id === partId)
  if (!input || part?.type !== 'legend') return []
  const { settings } = readyPart(part, input.typeStyles ?? [])
  const laid = layOutLegend(settings, part.box, sheetContext(input))
  const { paddingMm } = settings
  return laid.placed
    .filter(({ nodes }) => [...walk(nodes)].some(({ type }) => type === 'text'))
    .map(({ line, textX, y, width, height, x }) => ({
      key: line.key,
      text: line.text,
      proposed: line.proposed,
      role: line.role,
      textX: part.box.x + paddingMm + textX,
      box: { x: part.box.x + paddingMm + x, y: part.box.y + paddingMm + y, width, height },
    }))
}

/** A PNG of a sheet, `widthPx` wide. */
async function thumbnail(sheetId: string, widthPx: number): Promise<Blob | null> {
  const sheet = folio?.sheets.find((s) => s.id === sheetId)
  if (!sheet) return null
  const drawn = await drawSheet(sheetId, widthPx / sheet.page.widthMm)
  if (!drawn) return null
  const canvas = new OffscreenCanvas(drawn.bitmap.width, drawn.bitmap.height)
  canvas.getContext('2d')?.drawImage(drawn.bitmap, 0, 0)
  return canvas.convertToBlob({ type: 'image/png' })
}

/** A first sheet for a map, its legend measured with the typefaces that it is set in. */
async function firstSheet(mapId: string, name: string): Promise<Sheet | null> {
  const map = folio?.maps.find(({ id }) => id === mapId)
  if (!folio || !map) return null
  const { typeStyles } = folio
  await loadFonts(legendFonts(map, typeStyles))
  return newSheet(map, datasets, { name, newId: () => nanoid(8), lettering: { fonts, typeStyles } })
}

/** What the proof says of a sheet. */
async function proof(sheetId: string): Promise<ProofLine[]> {
  const input = await sheetInput(sheetId, 0.1)
  if (!input || !folio) return []
  return proofSheet(input.sheet, sheetContext(input))
}

/** The names of the panels of a sheet of which a file cannot say where they lie on the ground. */
async function unplaced(sheetId: string): Promise<string[]> {
  const input = await sheetInput(sheetId, 0.1)
  return input ? georeferences(sheetContext(input).panels).unplaced : []
}

/** All lines that a legend could show, hidden ones too, with their words. */
async function legendEntries(sheetId: string, partId: string): Promise<LegendLine[]> {
  const input = await sheetInput(sheetId, 0.1)
  const part = input?.sheet.parts.find((p) => p.id === partId)
  if (!input || part?.type !== 'legend') return []
  return allLines(part.settings, sheetContext(input))
}

/** Where the middles of the figures of some amounts lie, mm from the top left corners of their boxes, words and all. */
async function figureMiddles(sheetId: string, amounts: AmountSettings[]): Promise<[number, number][]> {
  const input = await sheetInput(sheetId, 0.1)
  if (!input) return []
  const context = sheetContext(input)
  const box = { x: 0, y: 0, width: 1, height: 1 }
  return amounts.map((settings) => {
    const part = readyPart(makePart('amount', { id: '', name: '', box }, settings), input.typeStyles ?? [])
    return middleOf(layOutAmount(part.settings as AmountSettings, box, context).figure)
  })
}

const sceneApi = {
  ...datasetQuestions(() => datasets),
  ...layerQuestions(() => datasets),
  ...blockQuestions(() => datasets),
  ...tileQuestions(() => datasets),
  proof,
  unplaced,
  legendEntries,
  figureMiddles,
  setFolio,
  changeFolio,
  drawMap,
  drop,
  drawSheet,
  previewSheet,
  legendLines,
  thumbnail,
  firstSheet,
}
export type SceneApi = typeof sceneApi

expose(sceneApi)
