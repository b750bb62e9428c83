import type { Extent } from '@/core/geo/geometry'
import { entryOf, projections, type Property, type ProjectionSpec } from './catalogue'

/** What must stay true on the map. */
export const aims = ['areas', 'shapes', 'distances', 'balance'] as const
export type Aim = (typeof aims)[number]

export type Advice = { spec: ProjectionSpec; why: string }

type Shape = {
  kind: 'world' | 'hemisphere' | 'region'
  direction: 'east–west' | 'north–south' | 'equal'
  zone: 'equator' | 'middle' | 'pole'
  centre: [number, number]
  parallels: [number, number]
  extent: Extent
}

function kindOfExtent(degrees: number, width: number, height: number): Shape['kind'] {
  if (degrees > 200 || height > 120) return 'world'
  return width > 80 || height > 80 ? 'hemisphere' : 'region'
}

function directionOf(width: number, height: number): Shape['direction'] {
  if (width > 1.15 * height) return 'east–west'
  return height > 1.15 * width ? 'north–south' : 'equal'
}

function zoneOf(latitude: number): Shape['zone'] {
  if (Math.abs(latitude) >= 70) return 'pole'
  return Math.abs(latitude) < 15 ? 'equator' : 'middle'
}

/** The size, direction and latitude of an extent; standard parallels lie a sixth of its height inside it. */
function shapeOf([west, south, east, north]: Extent): Shape {
  const centre: [number, number] = [round(centreLongitude(west, east)), round((south + north) / 2)]
  const height = north - south
  const width = (east - west) * Math.cos((centre[1] * Math.PI) / 180)
  const touchesEquator = south < 15 && north > -15 && Math.abs(centre[1]) < 15
  return {
    kind: kindOfExtent(east - west, width, height),
    direction: directionOf(width, height),
    zone: touchesEquator ? 'equator' : zoneOf(centre[1]),
    centre,
    parallels: [round(south + height / 6), round(north - height / 6)],
    extent: [west, south, east, north],
  }
}

/**
 * One to three projections for an extent and what must stay true, the best first, each with the reason: after
 * Snyder's guideline (1987, chapter 7). The world on a pseudocylindrical, a hemisphere on an azimuthal
 * projection; smaller regions on a cylinder along the equator, on a cone where they stretch east to west in
 * middle latitudes, on a cylinder along the meridian where they stretch north to south and shapes matter, on
 * a plane otherwise.
 */
export function advise(extent: Extent, aim: Aim): Advice[] {
  const shape = shapeOf(extent)
  const { kind, direction, zone, centre, parallels } = shape
  const make = (id: ProjectionSpec['id'], more: Partial<ProjectionSpec> = {}): ProjectionSpec => ({
    id,
    centre,
    parallels: projections[id].parallels ? parallels : [0, 0],
    ...more,
  })
  const onEquator: Partial<ProjectionSpec> = { centre: [centre[0], 0] }
  const alongEquator: Partial<ProjectionSpec> = {
    ...onEquator,
    parallels: [round(Math.max(Math.abs(extent[1]), Math.abs(extent[3])) / 2), 0],
  }
  const cone = direction === 'east–west' && zone === 'middle'
  const band = direction === 'east–west' && zone === 'equator'
  const stretches = direction === 'equal' ? 'alike in all directions' : `more ${direction}`
  const near = { equator: ' near the equator', pole: ' near a pole', middle: '' }[zone]
  const where = {
    world: 'The world',
    hemisphere: 'Half of the globe',
    region: `A region that stretches ${stretches}${near}`,
  }[kind]
  const say = (spec: ProjectionSpec, why: string): Advice => ({ spec, why: `${where}: ${why}` })
  const plane = (id: ProjectionSpec['id'], why: string): Advice => say(make(id), why)

  if (aim === 'areas') {
    if (kind === 'world')
      return [
        say(make('equal-earth', onEquator), 'areas are true and the outline is pleasant.'),
        say(make('mollweide', onEquator), 'areas are true, and the edge is an ellipse.'),
        say(make('eckert-4', onEquator), 'areas are true, and the poles are lines.'),
      ]
    if (kind === 'region' && band)
      return [
        say(
          make('cylindrical-equal-area', alongEquator),
          'areas are true, and the parallels that are true to length lie halfway to its edges.',
        ),
        plane('lambert-azimuthal-equal-area', 'areas are true, and shapes suffer least at its middle.'),
      ]
    if (kind === 'region' && cone)
      return [
        say(
          make('albers-equal-area'),
          'areas are true, and two parallels a sixth inside its edges are true to length.',
        ),
        plane('lambert-azimuthal-equal-area', 'areas are true, and shapes suffer least at its middle.'),
      ]
    return [
      plane('lambert-azimuthal-equal-area', 'areas are true, and shapes suffer alike in all directions.'),
      ...(zone === 'middle' && kind === 'region'
        ? [say(make('albers-equal-area'), 'areas are true, and meridians are straight.')]
        : []),
    ]
  }
  if (aim === 'shapes') {
    if (kind === 'world' || (kind === 'region' && band))
      return [
        say(make('mercator', onEquator), 'angles are true; areas grow with the distance from the equator.'),
      ]
    if (kind === 'region' && cone)
      return [
        say(make('lambert-conformal-conic'), 'angles are true, and the scale is right along two parallels.'),
        plane('stereographic', 'angles are true, and circles stay circles.'),
      ]
    if (kind === 'region' && direction === 'north–south')
      return [
        say(
          make('transverse-mercator'),
          'angles are true, and the scale is right along the middle meridian.',
        ),
        plane('stereographic', 'angles are true, and circles stay circles.'),
      ]
    return [plane('stereographic', 'angles are true, and circles stay circles.')]
  }
  if (aim === 'distances') {
    const fromCentre = plane('azimuthal-equidistant', 'distances and directions from its middle are true.')
    if (kind === 'region' && cone)
      return [
        say(make('equidistant-conic'), 'distances along meridians and two parallels are true.'),
        fromCentre,
      ]
    if (kind === 'region' && band)
      return [
        say(
          make('equidistant-cylindrical', alongEquator),
          'distances along meridians and one parallel are true.',
        ),
        fromCentre,
      ]
    return [fromCentre]
  }
  if (kind === 'world')
    return [
      say(make('robinson', onEquator), 'nothing is true, and nothing looks wrong.'),
      say(make('winkel-tripel', onEquator), 'a balance of areas, angles and distances.'),
      say(make('natural-earth', onEquator), 'a balance with rounded corners.'),
    ]
  return [
    ...(cone ? [say(make('equidistant-conic'), 'between true areas and true shapes.')] : []),
    plane('azimuthal-equidistant', 'between true areas and true shapes.'),
  ]
}

/** The best projection that keeps areas true, for maps of amounts by area. */
export const adviseEqualArea = (extent: Extent): ProjectionSpec => advise(extent, 'areas')[0].spec

/** A plane that touches the globe at a place and keeps what a projection keeps: for what lies far from its middle. */
export function planeAbout(spec: ProjectionSpec, [lon, lat]: readonly [number, number]): ProjectionSpec {
  const planes: Record<Property, ProjectionSpec['id']> = {
    'equal-area': 'lambert-azimuthal-equal-area',
    conformal: 'stereographic',
    equidistant: 'azimuthal-equidistant',
    compromise: 'azimuthal-equidistant',
  }
  return { id: planes[entryOf(spec).property], centre: [round(lon), round(lat)], parallels: [0, 0] }
}

const centreLongitude = (west: number, east: number): number => {
  const middle = (west + east) / 2
  return middle > 180 ? middle - 360 : middle
}

/** Parameters people read are kept to a quarter of a degree. */
const round = (deg: number): number => Math.round(deg * 4) / 4
