import { fieldOf, type Dataset } from '@/core/data/dataset'
import { proposeMeta, type FieldMeta } from '@/core/data/field-meta'
import type { Prepared } from '@/core/data/prepare'
import { rowKeys, rowName } from '@/core/data/row-names'
import { featureCount } from '@/core/geo/geometry'
import { featureOutline } from '@/core/geo/outlines'
import type { Projected } from '@/core/geo/projected'
import { marksAt, placesOf, roundReach } from '@/core/kinds/marks/places'
import { alongLine, stretches, tracksIn } from '@/core/labels/along'
import { besideMark, type Mark } from '@/core/labels/beside'
import { blockBox, type Candidate } from '@/core/labels/candidate'
import { insideArea, leaderFrom, spansAt, type PaperArea } from '@/core/labels/inside'
import { blockNodes, layOutLabel } from '@/core/labels/lettering'
import { placeLabels, type Job } from '@/core/labels/place'
import type { LabelSettings } from '@/core/labels/spec'
import { labelSizes, labelWords, rankedRows } from '@/core/labels/words'
import { projectGeometry } from '@/core/geo/projected'
import type { Projection } from '@/core/projection/projection'
import { outlineBox, polyline } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Group, type Node } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import type { Bounds } from '@/core/scene/bounds'
import { windowBounds, toPaper } from '@/core/geo/paper'
import type { Layer } from './spec'

/** A layer as it is drawn, with the marks that its kind sets on paper. */
export type LabelledLayer = {
  layer: Layer
  prepared: Prepared
  projected: Projected
  /** The one that it lies in, which a cartogram may have stretched. */
  projection: Projection
  /** The symbols of its kind. */
  marks: () => Mark[]
}

/** A layer of which points of its kind's own are labelled, such as peaks, in place of its rows. */
export function labelledPoints(
  layer: Layer,
  prepared: Prepared,
  dataset: Dataset,
  { projection, to, reachMm }: { projection: Projection; to: PaperTransform; reachMm: number },
): LabelledLayer {
  const [naming] = dataset.fields
  const fieldMeta = (key: string): FieldMeta => ({
    ...proposeMeta(key, fieldOf(dataset, key) ?? naming.column),
    ...(key === naming.key ? { role: 'name' } : {}),
  })
  return {
    layer,
    prepared: { ...prepared, dataset, fieldMeta },
    projected: projectGeometry(dataset.geometry, projection),
    projection,
    marks: () =>
      marksAt(
        Array.from({ length: dataset.rowCount }, (_, i) => i),
        { dataset, projection, to },
        () => roundReach(reachMm),
      ),
  }
}

export type PlacedLabel = {
  layerId: string
  key: string
  text: string
  /** What it covers: one box, or one for each letter. */
  boxes: Bounds[]
  /** The middle of the text on paper, mm. */
  at: [x: number, y: number]
  moved: boolean
  preferred: boolean
}
export type LeftOut = { layerId: string; key: string; text: string; reason: string }

/**
 * What became of the labels of a map in a window: those placed, those left out, and formulas that cannot be
 * used.
 */
export type LabelReport = {
  placed: PlacedLabel[]
  left: LeftOut[]
  problems: { layerId: string; problem: string }[]
}

type Wanted = Job & {
  layer: Layer
  key: string
  text: string
  order: [importance: number, layer: number, rank: number]
  name: string
  /** Out of the window as a whole: not missed where it has no place. */
  unseen: boolean
}

type Input = {
  layers: LabelledLayer[]
  /** That of the map as it is looked at, in which labels were put by hand. */
  projection: Projection
  to: PaperTransform
  window: PaperWindow
  fonts: FontBook
  /** Boxes that no label covers. */
  keepOff?: PaperWindow[]
}

/** Places the labels of all layers together, those of the top layer last in the list of `layers`. */
export function labelMap(input: Input): { groups: Group[]; report: LabelReport } {
  const { layers, window } = input
  const report: LabelReport = { placed: [], left: [], problems: [] }
  if (!layers.some(({ layer }) => layer.labels)) return { groups: [], report }
  const marks: Bounds[] = (input.keepOff ?? []).map(({ x, y, width, height }) => [
    x,
    y,
    x + width,
    y + height,
  ])
  const markOf = new Map<Mark, number>()
  const marksOf = new Map(
    layers.map((one) => [one, one.layer.keepClear || one.layer.labels ? one.marks() : []]),
  )
  for (const one of layers)
    if (one.layer.keepClear)
      for (const mark of marksOf.get(one) ?? []) {
        markOf.set(mark, marks.length)
        marks.push([mark.x - mark.left, mark.y - mark.up, mark.x + mark.right, mark.y + mark.down])
      }
  const jobs = layers.flatMap((one, i) =>
    one.layer.labels
      ? jobsOf({ ...one, marks: marksOf.get(one) ?? [] }, one.layer.labels, {
          place: layers.length - i,
          input,
          markOf,
          report,
        })
      : [],
  )
  jobs.sort((a, b) => b.order[0] - a.order[0] || a.order[1] - b.order[1] || a.order[2] - b.order[2])
  const groups = new Map<string, Group>()
  placeLabels(jobs, marks, window).forEach(({ candidate, reason }, j) => {
    const { layer, key, text, fixed, name, unseen } = jobs[j]
    const settings = layer.labels
    if (!settings) return
    if (!candidate) {
      if (!unseen)
        report.left.push({
          layerId: layer.id,
          key,
          text: text.replaceAll('\n', ' '),
          reason: reason === 'no room' ? 'no room for it' : 'another label or a symbol is in the way',
        })
      return
    }
    const into = groups.get(layer.id) ?? group(`${layer.name}, labels`, [], { layer: true })
    groups.set(layer.id, into)
    const leader = candidate.leader
      ? [path(polyline(candidate.leader), { strokes: [stroke(settings.colour, 0.12)] })]
      : []
    into.children.push(labelGroup(name, text, [...leader, ...candidate.nodes()]))
    report.placed.push({
      layerId: layer.id,
      key,
      text: text.replaceAll('\n', ' '),
      boxes: candidate.boxes,
      at: [candidate.x, candidate.y],
      moved: fixed,
      preferred: candidate.preferred,
    })
  })
  return { groups: layers.flatMap(({ layer }) => groups.get(layer.id) ?? []), report }
}

function jobsOf(
  { layer, prepared, projected, projection: own, marks }: Omit<LabelledLayer, 'marks'> & { marks: Mark[] },
  settings: LabelSettings,
  {
    place,
    input,
    markOf,
    report,
  }: { place: number; input: Input; markOf: Map<Mark, number>; report: LabelReport },
): Wanted[] {
  const { fonts, window, to, projection } = input
  const { dataset } = prepared
  const { words, problem } = labelWords(settings.text, dataset)
  if (problem) report.problems.push({ layerId: layer.id, problem })
  const sizeOf = labelSizes(settings, dataset)
  const keys = rowKeys(prepared)
  const without = new Set(settings.without)
  const windowBox = windowBounds(window)
  const placesFor = placer(projected, marks, prepared, { ...input, projection: own })
  return rankedRows(settings, dataset).flatMap((row, rank): Wanted[] => {
    const text = words[row]
    if (!text || without.has(keys[row])) return []
    const base = {
      layer,
      key: keys[row],
      text,
      order: [settings.importance, place, rank] as Wanted['order'],
      name: rowName(prepared, row),
      fixed: false,
      ownMark: -1,
      unseen: false,
    }
    const moved = settings.moved[keys[row]]
    if (moved && projected.kind !== 'lines') {
      const [px, py] = projection.project(...moved)
      const [x, y] = toPaper(to, px, py)
      if (!(x > windowBox[0] && x < windowBox[2] && y > windowBox[1] && y < windowBox[3])) return []
      return [
        {
          ...base,
          fixed: true,
          candidates: () => [
            movedTo(fonts, text, settings, { sizePt: sizeOf(row), x, y, anchor: placesFor.anchor(row) }),
          ],
        },
      ]
    }
    if (moved)
      return alongNear(
        base,
        placesFor
          .tracks(row)
          .flatMap((track) =>
            alongLine(fonts, text, settings, { sizePt: sizeOf(row), line: track, span: [0, track.length] }),
          ),
        moved,
        { projection, to },
      )
    if (projected.kind === 'lines')
      return placesFor.tracks(row).flatMap((track, t) =>
        stretches(track, settings.line.repeatMm).map((stretch, s): Wanted => ({
          ...base,
          unseen: t > 0 || s > 0,
          candidates: () =>
            alongLine(fonts, text, settings, { sizePt: sizeOf(row), line: track, span: stretch }),
        })),
      )
    const own = placesFor.marks(row)
    if (own.length)
      return own.map((mark) => ({
        ...base,
        ownMark: markOf.get(mark) ?? -1,
        candidates: () =>
          besideMark(fonts, layOutLabel(fonts, text, settings, { sizePt: sizeOf(row) }), settings, mark),
      }))
    const area = placesFor.area(row)
    return area
      ? [
          {
            ...base,
            unseen:
              area.x < windowBox[0] ||
              area.y < windowBox[1] ||
              area.x > windowBox[2] ||
              area.y > windowBox[3],
            candidates: () =>
              insideArea(fonts, text, settings, {
                sizePt: sizeOf(row),
                area,
                window: windowBox,
                isOpen: placesFor.isOpen,
              }),
          },
        ]
      : []
  })
}

/** A label, with what it says where its letters are set apart or in two sizes. */
function labelGroup(name: string, text: string, nodes: Node[]): Group {
  const texts = nodes.filter((node) => node.type === 'text')
  const says = text.replaceAll('\n', ' ')
  const whole = texts.length === 1 && !texts[0].letters && texts[0].letterSpacingMm === 0
  return group(name, nodes, whole ? {} : { says })
}

/** The place along a line that is nearest to where a label was put by hand. */
function alongNear(
  base: Omit<Wanted, 'candidates'>,
  candidates: Candidate[],
  [lon, lat]: [number, number],
  { projection, to }: { projection: Projection; to: PaperTransform },
): Wanted[] {
  const [px, py] = toPaper(to, ...projection.project(lon, lat))
  const far = ({ x, y }: Candidate): number => Math.hypot(x - px, y - py)
  const [nearest] = [...candidates].sort((a, b) => far(a) - far(b))
  return nearest ? [{ ...base, fixed: true, candidates: () => [nearest] }] : []
}

/**
 * A label at a place chosen by hand, with a line to what it names where that is farther than two lines of
 * text.
 */
function movedTo(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  {
    sizePt,
    x,
    y,
    anchor,
  }: { sizePt: number; x: number; y: number; anchor: { x: number; y: number; reach: number } | null },
): Candidate {
  const block = layOutLabel(fonts, text, settings, { sizePt })
  const box = blockBox(block, x, y)
  const leader = anchor && leaderFrom(box, anchor.x, anchor.y)
  const far =
    leader &&
    anchor &&
    Math.hypot(leader[0] - leader[2], leader[1] - leader[3]) > anchor.reach + 2 * block.sizeMm
  return {
    boxes: [box],
    x,
    y,
    preferred: true,
    leader: far ? leader : null,
    nodes: () => blockNodes(fonts, block, settings, { x, y, setting: { align: 'middle', rotationDeg: 0 } }),
  }
}

/** Half a millimetre is as near as names outside of areas come to others. */
const cellMm = 0.5

/** Whether any of some areas lies at a place of a window, by cells of half a millimetre. */
function coverage(areas: Float64Array[][], window: PaperWindow): (x: number, y: number) => boolean {
  const [columns, rows] = [Math.ceil(window.width / cellMm), Math.ceil(window.height / cellMm)]
  const cells = new Uint8Array(columns * rows)
  for (const rings of areas) {
    let [low, high] = [Infinity, -Infinity]
    for (const ring of rings)
      for (let i = 1; i < ring.length; i += 2) {
        if (ring[i] < low) low = ring[i]
        if (ring[i] > high) high = ring[i]
      }
    const last = Math.min(rows - 1, Math.floor((high - window.y) / cellMm))
    for (let row = Math.max(0, Math.floor((low - window.y) / cellMm)); row <= last; row++)
      for (const [from, to] of spansAt(rings, window.y + (row + 0.5) * cellMm)) {
        const [a, b] = [
          Math.max(0, Math.floor((from - window.x) / cellMm)),
          Math.min(columns - 1, Math.floor((to - window.x) / cellMm)),
        ]
        if (b >= a) cells.fill(1, row * columns + a, row * columns + b + 1)
      }
  }
  return (x, y) => {
    const [column, row] = [Math.floor((x - window.x) / cellMm), Math.floor((y - window.y) / cellMm)]
    return column >= 0 && row >= 0 && column < columns && row < rows && cells[row * columns + column] === 1
  }
}

/** Where the features of a layer lie on paper. */
function placer(
  projected: Projected,
  marks: Mark[],
  { dataset }: Prepared,
  { to, window, projection }: Input,
) {
  const seen = (m: Mark): boolean =>
    m.x > window.x && m.y > window.y && m.x < window.x + window.width && m.y < window.y + window.height
  const byRow = new Map<number, Mark[]>()
  for (const mark of marks)
    if (seen(mark)) byRow.set(mark.feature, [...(byRow.get(mark.feature) ?? []), mark])
  const ringsOf = (row: number, where: PaperWindow): Float64Array[] => {
    const { outline } = featureOutline(projected, [row], to, where)
    if (outline.kind !== 'rings') return []
    const { coords, starts, ends, place } = outline
    return Array.from(starts, (start, r) =>
      Float64Array.from(
        { length: 2 * (ends[r] - start) },
        (_, i) => coords[2 * start + i] * place.scale + (i % 2 ? place.dy : place.dx),
      ),
    )
  }
  const inner = projected.kind === 'areas' ? placesOf(dataset.geometry) : null
  const projectedInner = inner && projectGeometry(inner, projection)
  const pole = (row: number): [number, number] | null => {
    if (
      projectedInner?.kind !== 'points' ||
      projectedInner.featureStarts[row] === projectedInner.featureStarts[row + 1]
    )
      return null
    const p = projectedInner.featureStarts[row]
    return [
      projectedInner.coords[2 * p] * to.mmPerMetre + to.dx,
      projectedInner.coords[2 * p + 1] * to.mmPerMetre + to.dy,
    ]
  }
  const area = (row: number): PaperArea | null => {
    const at = pole(row)
    const { outline, kept } = featureOutline(projected, [row], to, window)
    const box = kept.length ? outlineBox(outline) : null
    if (!at || !box) return null
    let rings: Float64Array[] | null = null
    return {
      rings: () => (rings ??= ringsOf(row, window)),
      x: at[0],
      y: at[1],
      box: [box.x, box.y, box.x + box.width, box.y + box.height],
    }
  }
  let covered: ((x: number, y: number) => boolean) | null = null
  const isOpen = (x: number, y: number): boolean => {
    if (projected.kind !== 'areas') return true
    covered ??= coverage(
      Array.from({ length: featureCount(projected) }, (_, f) => ringsOf(f, window)),
      window,
    )
    return !covered(x, y)
  }
  return {
    marks: (row: number) => byRow.get(row) ?? [],
    tracks: (row: number) =>
      projected.kind === 'lines'
        ? ringsOf(row, window)
            .flatMap((ring) => tracksIn(ring, window))
            .sort((a, b) => b.length - a.length)
        : [],
    area: (row: number) => (projected.kind === 'areas' ? area(row) : null),
    isOpen,
    /** What a line from a moved label leads to. */
    anchor(row: number): { x: number; y: number; reach: number } | null {
      const [mark] = byRow.get(row) ?? []
      if (mark) return { x: mark.x, y: mark.y, reach: Math.max(mark.left, mark.right, mark.up, mark.down) }
      const at = pole(row)
      return at && { x: at[0], y: at[1], reach: 0 }
    },
  }
}
