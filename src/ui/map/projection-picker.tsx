'use client'
import { useMemo, useState } from 'react'
import { geometriesOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/extent'
import { eachVertex, type Extent, type Lines } from '@/core/geo/geometry'
import { tearGeometry } from '@/core/geo/sphere/tear'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import type { MapSpec } from '@/core/map/spec'
import { advise, adviseEqualArea, type Aim } from '@/core/projection/adviser'
import {
  entryOf,
  projectionIds,
  projections,
  type CatalogueEntry,
  type ProjectionId,
  type ProjectionSpec,
  type Property,
} from '@/core/projection/catalogue'
import { referenceFormula } from '@/core/projection/reference'
import type { SystemCard } from '@/server/reference-systems'
import { SystemPicker } from '../data/system-picker'
import { Row, Segments } from '../kit/controls'
import { NumberField } from '../kit/number-field'
import { Popover } from '../kit/popover'
import { useFolio } from '../shell/folio-store'
import { useDistortion } from './distortion'
import { editMap } from './edit-map'

const propertyWords: Record<Property, string> = {
  'equal-area': 'Areas are true',
  conformal: 'Angles are true',
  equidistant: 'Some distances are true',
  compromise: 'Nothing is true, or perspective',
}

/** The extent of what a map shows. */
export const mapExtent = (map: MapSpec, all: Map<string, Prepared>): Extent | null =>
  extentOf(
    map.layers.flatMap(({ datasetId }) => {
      const prepared = all.get(datasetId)
      return prepared ? geometriesOf(prepared.dataset) : []
    }),
  )

/**
 * Puts another projection under a map; views are fitted anew, because their scales were those of the old one.
 */
export function setProjection(map: MapSpec, projection: ProjectionSpec, merge?: string): void {
  editMap(
    map.id,
    `Project by ${entryOf(projection).label}`,
    (draft) => void (draft.projection = projection),
    merge,
  )
  useFolio.setState(({ views }) => ({
    views: Object.fromEntries(Object.entries(views).filter(([id]) => id !== map.id)),
  }))
}

/** The remedy for areas that cannot be compared. */
export function makeEqualArea(map: MapSpec, all: Map<string, Prepared>): void {
  setProjection(map, adviseEqualArea(mapExtent(map, all) ?? [-180, -90, 180, 90]))
}

/** A projection by what must stay true, from the catalogue, or by its parameters. */
export function ProjectionPicker({ map, all }: { map: MapSpec; all: Map<string, Prepared> }) {
  const [aim, setAim] = useState<Aim>('areas')
  const { projection } = map
  const extent = useMemo(() => mapExtent(map, all), [map, all])
  const proposals = extent ? advise(extent, aim) : []
  const entry = entryOf(projection)
  const choose = (id: ProjectionId) => {
    const advised = (['areas', 'shapes', 'distances', 'balance'] as const)
      .flatMap((one) => (extent ? advise(extent, one) : []))
      .find(({ spec }) => spec.id === id)
    const kept = projection.turnDeg ? { turnDeg: projection.turnDeg } : {}
    // Parameters are those that fit the data, where the adviser knows some.
    setProjection(
      map,
      advised?.spec
        ? { ...advised.spec, ...kept }
        : {
            ...projection,
            system: undefined,
            id,
            parallels:
              projections[id].parallels && !projection.parallels[0] && !projection.parallels[1]
                ? [30, 45]
                : projection.parallels,
          },
    )
  }
  const view = useDistortion((state) => state.view)
  const [problem, setProblem] = useState('')
  const chooseSystem = ({ code, name, proj4 }: SystemCard) => {
    try {
      const { centre } = referenceFormula(proj4)
      setProjection(map, { ...projection, centre, system: { code, name, proj4 } })
      setProblem('')
    } catch (error) {
      setProblem(`${code} cannot be drawn: ${error instanceof Error ? error.message : String(error)}`)
    }
  }
  const set = (change: Partial<ProjectionSpec>) =>
    setProjection(map, { ...projection, ...change }, 'projection')
  return (
    <Popover
      label="Projection"
      align="end"
      className="w-[372px]"
      trigger={
        <button
          type="button"
          aria-label={`Projection: ${entry.label}`}
          className="control flex w-full items-center truncate text-left"
        >
          {entry.label}
        </button>
      }
    >
      <p className="mb-1 text-xs text-muted">What must stay true?</p>
      <Segments
        label="What must stay true"
        value={aim}
        options={[
          { value: 'areas', label: 'Areas' },
          { value: 'shapes', label: 'Shapes' },
          { value: 'distances', label: 'Distances' },
          { value: 'balance', label: 'A balance' },
        ]}
        onChange={setAim}
      />
      <ul className="my-2 flex flex-col gap-1" aria-label="Advice">
        {proposals.map(({ spec, why }) => (
          <li key={spec.id}>
            <button
              type="button"
              aria-pressed={JSON.stringify(spec) === JSON.stringify(projection)}
              className={`flex w-full items-center gap-3 rounded px-2 py-1 text-left hover:bg-base-200 ${spec.id === projection.id ? 'bg-tint' : ''}`}
              onClick={() => setProjection(map, spec)}
            >
              <Picture spec={spec} />
              <span>
                <span className="block font-semibold">{projections[spec.id].label}</span>
                <span className="block text-xs text-muted">{why}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="border-t border-line pt-2">
        {projection.system && (
          <p className="px-1 text-xs text-muted">
            {projection.system.code} has its own parameters: {entry.family}, {entry.property}.
          </p>
        )}
        {!projection.system && (
          <Row label="Centre">
            <NumberField
              label="Longitude of the centre"
              value={projection.centre[0]}
              unit="° E"
              min={-180}
              max={180}
              step={1}
              onChange={(lon) => set({ centre: [lon, projection.centre[1]] })}
            />
            <NumberField
              label="Latitude of the centre"
              value={projection.centre[1]}
              unit="° N"
              min={-90}
              max={90}
              step={1}
              disabled={!entry.turnsToCentre && entry.family !== 'conic'}
              onChange={(lat) => set({ centre: [projection.centre[0], lat] })}
            />
          </Row>
        )}
        {entry.parallels > 0 && (
          <Row label="Parallels">
            <NumberField
              label="First standard parallel"
              value={projection.parallels[0]}
              unit="°"
              min={-89}
              max={89}
              step={1}
              onChange={(a) => set({ parallels: [a, projection.parallels[1]] })}
            />
            {entry.parallels === 2 && (
              <NumberField
                label="Second standard parallel"
                value={projection.parallels[1]}
                unit="°"
                min={-89}
                max={89}
                step={1}
                onChange={(b) => set({ parallels: [projection.parallels[0], b] })}
              />
            )}
          </Row>
        )}
        <Row label="Turned">
          <NumberField
            label="Map turned clockwise"
            value={projection.turnDeg ?? 0}
            unit="°"
            min={-180}
            max={180}
            step={5}
            decimals={1}
            onChange={(turn) => set({ turnDeg: turn || undefined })}
          />
        </Row>
        {entry.oblique && (
          <Row label="Tilted">
            <NumberField
              label="Globe turned about the middle"
              value={projection.tiltDeg ?? 0}
              unit="°"
              min={-180}
              max={180}
              step={5}
              decimals={1}
              onChange={(tilt) => set({ tiltDeg: tilt || undefined })}
            />
          </Row>
        )}
        <Row label="By EPSG">
          <SystemPicker
            value={projection.system?.code ?? 'none'}
            extent={extent}
            onPick={(_, system) => chooseSystem(system)}
          />
        </Row>
        {problem && (
          <p role="alert" className="text-xs text-error">
            {problem}
          </p>
        )}
        <Row label="Distortion">
          <Segments
            label="Distortion"
            value={view}
            options={[
              { value: 'none', label: 'Hidden' },
              { value: 'ellipses', label: 'Ellipses' },
              { value: 'lines', label: 'Lines' },
            ]}
            onChange={(next) => useDistortion.setState({ view: next })}
          />
        </Row>
        {view !== 'none' && (
          <p className="px-1 text-xs text-muted">
            {distortionWords(view, entry)} On the desk only, never in print.
          </p>
        )}
      </div>
      {(Object.keys(propertyWords) as Property[]).map((property) => (
        <div key={property} className="mt-2 border-t border-line pt-1">
          <p className="px-1 text-xs text-muted">{propertyWords[property]}</p>
          <div className="grid grid-cols-4 gap-1">
            {projectionIds
              .filter((id) => projections[id].property === property)
              .map((id) => (
                <button
                  key={id}
                  type="button"
                  aria-pressed={id === projection.id}
                  title={`${projections[id].label}, ${projections[id].family}`}
                  className={`flex flex-col items-center gap-0.5 rounded p-1 text-center text-[11px] leading-3 hover:bg-base-200 ${id === projection.id ? 'bg-tint font-medium text-primary' : ''}`}
                  onClick={() => choose(id)}
                >
                  <Picture
                    spec={{
                      id,
                      centre: projections[id].turnsToCentre ? [10, 40] : [0, 0],
                      parallels: sampleParallels[projections[id].parallels],
                    }}
                  />
                  {projections[id].label}
                  <span className="text-[10px] font-normal text-muted">{projections[id].family}</span>
                </button>
              ))}
          </div>
        </div>
      ))}
    </Popover>
  )
}

const far: ProjectionId[] = ['mercator', 'lambert-conformal-conic', 'transverse-mercator', 'miller']
/** Meridians and parallels every twenty degrees. */
const network = ((): Lines => {
  const runs: [number, number][][] = []
  const steps = Array.from({ length: 181 }, (_, i) => i)
  for (let lon = -180; lon < 180; lon += 20) runs.push(steps.slice(10, 171).map((i) => [lon, i - 90]))
  for (let lat = -80; lat <= 80; lat += 20)
    runs.push([...steps, ...steps.slice(1).map((i) => i + 180)].map((i) => [i - 180, lat]))
  const starts = new Uint32Array(runs.length + 1)
  runs.forEach((run, i) => (starts[i + 1] = starts[i] + run.length))
  const each = Uint32Array.from(starts, (_, i) => i)
  return {
    kind: 'lines',
    arcs: { coords: Float64Array.from(runs.flat(2)), starts },
    refs: Int32Array.from(runs, (_, i) => i),
    ringStarts: each,
    featureStarts: each,
  }
})()

const [pictureWidth, pictureHeight] = [60, 38]

/** The world's graticule in a projection, torn as the map is. */
function Picture({ spec }: { spec: ProjectionSpec }) {
  return (
    <svg width={pictureWidth} height={pictureHeight} className="shrink-0 overflow-hidden" aria-hidden>
      <path d={pictureOf(spec)} fill="none" stroke="currentColor" strokeWidth={0.4} />
    </svg>
  )
}

/** Pictures by their projections: each is reckoned once. */
const pictures = new Map<string, string>()

function pictureOf(spec: ProjectionSpec): string {
  const key = JSON.stringify(spec)
  const known = pictures.get(key)
  if (known !== undefined) return known
  const made = drawPicture(spec)
  pictures.set(key, made)
  return made
}

function drawPicture(spec: ProjectionSpec): string {
  const projection = createProjection(spec)
  const bounds = emptyBounds()
  // What lies far beyond the usual part of some would leave nothing to be seen of it.
  if (far.includes(spec.id))
    for (const lon of [-150, -75, 0, 75, 150])
      for (const lat of [-50, 0, 50, 75]) {
        const [x, y] = projection.project(lon + spec.centre[0], lat)
        if (Number.isFinite(x)) takeIn(bounds, Float64Array.of(x, y))
      }
  else for (const ring of projection.edge()) takeIn(bounds, Float64Array.from(ring))
  const [x0, y0, x1, y1] = bounds
  const scale = Math.min(pictureWidth / (x1 - x0), pictureHeight / (y1 - y0))
  const place = (x: number, y: number) =>
    `${((x - (x0 + x1) / 2) * scale + pictureWidth / 2).toFixed(1)},${((y - (y0 + y1) / 2) * scale + pictureHeight / 2).toFixed(1)}`
  const { arcs, ringStarts, ...torn } = tearGeometry(network, projection.frame)
  return Array.from({ length: ringStarts.length - 1 }, (_, r) => {
    const places: string[] = []
    eachVertex({ arcs, ringStarts, ...torn }, r, (v) => {
      const next = place(arcs.coords[2 * v], arcs.coords[2 * v + 1])
      if (next !== places[places.length - 1]) places.push(next)
    })
    return `M${places.join('L')}`
  }).join('')
}

/** Standard parallels of the small pictures, by how many a projection has. */
const sampleParallels: [number, number][] = [
  [0, 0],
  [30, 0],
  [20, 50],
]

function distortionWords(view: 'ellipses' | 'lines', { property }: CatalogueEntry): string {
  if (view === 'ellipses') return 'Every ellipse is a circle of one size on the ground.'
  if (property === 'equal-area') return 'Lines of equal error of angles, in degrees.'
  return 'Lines of equal error of areas against the middle, in per cent.'
}
