import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import { kindOf } from '@/core/kinds/registry'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import type { Projection } from '@/core/projection/projection'
import { polygon, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Group, type Node } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import { drawGraticule } from './graticule/draw'
import { labelledPoints, labelMap, type LabelledLayer, type LabelReport } from './label-map'
import { drawnLayers, type DrawnLayer } from './drawn'
import { liesStraight, planOf, shapesOf, stretchedProjection } from './layer-plan'
import type { MapSpec, MapView } from './spec'
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
  const planes = planesOf(input, projection)
  const ready = readyLayers(input, planes, to)
  const graticule =
    map.graticule && drawGraticule(map.graticule, planes.stretched, to, { window, fonts, keepOff })
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
  const ground = group(`${idPrefix}background`, groundNodes(input, planes, to), {
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
  const layers = readyLayers(input, planesOf(input, projection), to).map(({ labelled }) => labelled)
  return labelMap({ layers, projection, to, window, fonts, keepOff }).report
}

/** The plane of a map, and the same as layers see it that follow a cartogram. */
type Planes = { straight: Projection; stretched: Projection }

const planesOf = ({ map, datasets }: MapInput, straight: Projection): Planes => ({
  straight,
  stretched: stretchedProjection(map, straight, datasets),
})

/** A layer with all that its drawing and its labels need. */
type Ready = { draw: () => Group; labelled: LabelledLayer }

/** The layers that are seen, from the bottom of the stack up, which is the order of drawing. */
const readyLayers = (input: MapInput, { straight, stretched }: Planes, to: PaperTransform): Ready[] =>
  drawnLayers(input.map, input.view, input.datasets)
    .map((drawn) => readyLayer(drawn, input, liesStraight(drawn.layer) ? straight : stretched, to))
    .reverse()

function readyLayer(
  { layer, prepared }: DrawnLayer,
  { map, window, fonts, toleranceMm, idPrefix = '' }: MapInput,
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
  const shapes = () => shapesOf(layer, prepared, plan, map.projection)
  const draw = () =>
    group(`${idPrefix}${layer.name}`, kind.draw(plan, settings, context, shapes()), {
      name: layer.name,
      layer: true,
      opacity: layer.opacity,
      blend: layer.blend,
    })
  const named = layer.labels && kind.shapes?.named?.of(shapes())
  const labelledRows = () => {
    const rows = layer.labels && kind.shapes?.rows?.(shapes())
    if (!rows) return { prepared, projected }
    return { prepared: { ...prepared, dataset: rows }, projected: projectGeometry(rows.geometry, projection) }
  }
  const labelled: LabelledLayer = named
    ? labelledPoints(layer, prepared, named, {
        projection,
        to,
        reachMm: kind.shapes?.named?.reachMm(settings) ?? 0,
      })
    : { layer, ...labelledRows(), projection, marks: () => kind.marks(plan, settings, context) }
  return { draw, labelled }
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
  { straight, stretched }: Planes,
  to: PaperTransform,
): Node[] {
  const nodes: Node[] = [path(rectangle(window), { fill: solid(map.background) })]
  if (map.sea) {
    const rings = straight
      .edge()
      .map((ring) => ring.map((value, i) => value * to.mmPerMetre + (i % 2 ? to.dy : to.dx)))
    nodes.push(group('sea', [path(polygon(...rings), { fill: solid(map.sea), fillRule: 'evenodd' })]))
  }
  const land = map.land && datasets.get(map.land.datasetId)
  if (map.land && land?.dataset.geometry.kind === 'areas') {
    const projected = generalise(
      projectGeometry(land.dataset.geometry, stretched),
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
