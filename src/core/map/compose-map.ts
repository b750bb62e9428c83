import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import type { Classes } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import type { Dataset } from '@/core/data/dataset'
import { createMemory, numberOf } from '@/core/memory/memory'
import { rowName, type Prepared } from '@/core/data/prepare'
import type { Projection } from '@/core/projection/projection'
import { polygon, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Group, type Node } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import { drawGraticule } from './graticule/draw'
import { labelMap, type LabelledLayer, type LabelReport } from './label-map'
import { drawnLayers, type DrawnLayer } from './drawn'
import type { Layer, MapSpec, MapView } from './spec'
import { paperTransform, viewProjection } from './view'

export type MapInput = {
  map: MapSpec
  view: MapView
  /** Where the map lies on the page, in paper millimetres. */
  window: PaperWindow
  datasets: Map<string, Prepared>
  fonts: FontBook
  /** Details smaller than this on paper are dropped. 0.02 mm cannot be seen in print. */
  toleranceMm: number
  /** What will lie over the map, such as a legend: labels keep off it. In paper millimetres. */
  keepOff?: PaperWindow[]
  /** Set before the ids of the layers, so that two panels of a sheet keep theirs apart. */
  idPrefix?: string
}

export type ComposedMap = { group: Group; labels: LabelReport }

/**
 * A map as one clipped group: its ground, then a layer group for each visible layer, bottom first, then the
 * labels of all.
 */
export const composeMap = (input: MapInput): Group => composeLabelledMap(input).group

/** A map with what became of its labels. */
export function composeLabelledMap(input: MapInput): ComposedMap {
  const { map, view, window, fonts, idPrefix = '', keepOff = [] } = input
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, window)
  const ready = readyLayers(input, projection, to)
  const graticule = map.graticule && drawGraticule(map.graticule, projection, to, { window, fonts, keepOff })
  const net = (nodes: Node[], name: string): Node[] =>
    nodes.length ? [group(`${idPrefix}${name}`, nodes, { name, layer: true })] : []
  const { groups, report } = labelMap({
    layers: ready.map(({ labelled }) => labelled),
    projection,
    to,
    window,
    fonts,
    keepOff,
  })
  const ground = group(`${idPrefix}background`, groundNodes(input, projection, to), {
    name: 'Background',
    layer: true,
  })
  const children = [
    ground,
    ...(map.graticule && !map.graticule.over ? net(graticule?.lines ?? [], 'Graticule') : []),
    ...inGroups(ready, map, idPrefix),
    ...(map.graticule?.over ? net(graticule?.lines ?? [], 'Graticule') : []),
    ...groups.map((one) => ({ ...one, id: `${idPrefix}${one.id}` })),
    ...net(graticule?.labels ?? [], 'Degrees'),
  ]
  return {
    group: group(`${idPrefix}map`, children, { name: map.name, clip: rectangle(window) }),
    labels: report,
  }
}

/** What became of the labels of a map, without drawing it. */
export function labelsOf(input: MapInput): LabelReport {
  const { map, view, window, fonts, keepOff = [] } = input
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, window)
  const layers = readyLayers(input, projection, to).map(({ labelled }) => labelled)
  return labelMap({ layers, projection, to, window, fonts, keepOff }).report
}

/** A layer with all that its drawing and its labels need. */
type Ready = { draw: () => Group; labelled: LabelledLayer }

/** The layers that are seen, from the bottom of the stack up, which is the order of drawing. */
const readyLayers = (input: MapInput, projection: Projection, to: PaperTransform): Ready[] =>
  drawnLayers(input.map, input.view, input.datasets)
    .map((drawn) => readyLayer(drawn, input, projection, to))
    .reverse()

function readyLayer(
  { layer, prepared }: DrawnLayer,
  { window, fonts, toleranceMm, idPrefix = '' }: MapInput,
  projection: Projection,
  to: PaperTransform,
): Ready {
  const projected = generalise(
    projectGeometry(prepared.dataset.geometry, projection),
    toleranceMm / to.mmPerMetre,
  )
  const kind = kindOf(layer.symbology.kind)
  const plan = planOf(layer, prepared)
  const { settings } = layer.symbology
  const context = {
    dataset: prepared.dataset,
    datasetOf: prepared.datasetOf,
    projection,
    toleranceMm,
    projected,
    to,
    window,
    fonts,
    featureName: (feature: number) => `${layer.name} ${rowName(prepared, feature)}`,
  }
  const draw = () =>
    group(`${idPrefix}${layer.name}`, kind.draw(plan, settings, context, shapesOf(layer, prepared, plan)), {
      name: layer.name,
      layer: true,
      opacity: layer.opacity,
      blend: layer.blend,
    })
  return { draw, labelled: { layer, prepared, projected, marks: () => kind.marks(plan, settings, context) } }
}

/** The layers, those of a group within it. */
function inGroups(ready: Ready[], { groups }: MapSpec, idPrefix: string): Group[] {
  const out: Group[] = []
  let last: string | null = null
  for (const { draw, labelled } of ready) {
    const node = draw()
    const spec = groups.find(({ id }) => id === labelled.layer.groupId)
    if (spec && spec.id === last) out[out.length - 1].children.push(node)
    else
      out.push(
        spec
          ? group(`${idPrefix}${spec.name}`, [node], {
              name: spec.name,
              layer: true,
              opacity: spec.opacity,
              blend: spec.blend,
            })
          : node,
      )
    last = spec?.id ?? null
  }
  return out
}

/** The background, the tint of the sea within the edge of the world, and that of the land. */
function groundNodes(
  { map, window, datasets, toleranceMm }: MapInput,
  projection: Projection,
  to: PaperTransform,
): Node[] {
  const nodes: Node[] = [path(rectangle(window), { fill: solid(map.background) })]
  if (map.sea) {
    const rings = projection
      .edge()
      .map((ring) => ring.map((value, i) => value * to.mmPerMetre + (i % 2 ? to.dy : to.dx)))
    nodes.push(group('sea', [path(polygon(...rings), { fill: solid(map.sea), fillRule: 'evenodd' })]))
  }
  const land = map.land && datasets.get(map.land.datasetId)
  if (map.land && land?.dataset.geometry.kind === 'areas') {
    const projected = generalise(
      projectGeometry(land.dataset.geometry, projection),
      toleranceMm / to.mmPerMetre,
    )
    const { outline } = featureOutline(
      projected,
      Array.from({ length: land.dataset.rowCount }, (_, i) => i),
      to,
      window,
    )
    // A hairline of its own colour closes what would shine through between two areas.
    nodes.push(
      group('land', [
        path(outline, { fill: solid(map.land.colour), strokes: [stroke(map.land.colour, 0.05)] }),
      ]),
    )
  }
  return nodes
}

const rememberPlan = createMemory<Dataset, unknown>('plans', { maxBytes: 96 * 2 ** 20 })

/** All that the plan of a layer depends on, as text. */
export function planKey({ symbology }: Layer, prepared: Prepared): string {
  const others = kindOf(symbology.kind)
    .needs(symbology.settings)
    .map((id) => prepared.datasetOf(id))
  return JSON.stringify([
    numberOf(prepared.dataset),
    symbology,
    others.map((other) => other && numberOf(other)),
  ])
}

/** The plan of a layer, made once for the same rows and settings. */
export function planOf(layer: Layer, prepared: Prepared): unknown {
  const { kind, settings } = layer.symbology
  return rememberPlan(prepared.dataset, planKey(layer, prepared), () =>
    kindOf(kind).plan(settings, kindData(prepared)),
  )
}

const rememberShapes = createMemory<Dataset, unknown>('shapes that kinds make', { maxBytes: 128 * 2 ** 20 })

/** The geometry that a layer's kind makes of its own, made once for the same rows and what it depends on. */
export function shapesOf(
  { symbology: { kind, settings } }: Layer,
  prepared: Prepared,
  plan: unknown,
): unknown {
  const { shapes, needs } = kindOf(kind)
  if (!shapes) return null
  const others = needs(settings).map((id) => prepared.datasetOf(id))
  const key = JSON.stringify([kind, shapes.key(settings), others.map((other) => other && numberOf(other))])
  return rememberShapes(prepared.dataset, key, () => shapes.make(plan, settings, kindData(prepared)))
}

/** Every dataset that a layer draws on, its own first. */
export const layerNeeds = ({ datasetId, symbology }: Layer): string[] => [
  datasetId,
  ...kindOf(symbology.kind).needs(symbology.settings),
]

/** The classes of a layer's field at `which`; null for kinds without classes. */
export const classesOf = (layer: Layer, prepared: Prepared, which = 0): Classes | null =>
  classesIn(planOf(layer, prepared), layer, prepared, which)

/** The same, of a plan that is at hand. */
export const classesIn = (plan: unknown, layer: Layer, prepared: Prepared, which: number): Classes | null =>
  kindOf(layer.symbology.kind).classification(plan, layer.symbology.settings, kindData(prepared), which)

/** The classes of all fields of a layer that have some. */
export const allClassesOf = (layer: Layer, prepared: Prepared): Classes[] =>
  kindOf(layer.symbology.kind)
    .classings(layer.symbology.settings)
    .flatMap((_, which) => classesOf(layer, prepared, which) ?? [])

export const kindData = (prepared: Prepared) => ({
  dataset: prepared.dataset,
  name: prepared.entry.name,
  fieldMeta: prepared.fieldMeta,
  datasetOf: prepared.datasetOf,
  datasetIds: prepared.datasetIds,
})
