'use client'
import { useMemo, useState } from 'react'
import { geometriesOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { extentOf } from '@/core/geo/extent'
import type { Extent } from '@/core/geo/geometry'
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
import { ProjectionPicture } from './projection-picture'

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
              <ProjectionPicture spec={spec} />
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
                  <ProjectionPicture
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
