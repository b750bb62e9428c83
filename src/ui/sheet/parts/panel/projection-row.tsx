'use client'
import { Crosshair } from 'lucide-react'
import { degreesText } from '@/core/map/graticule/draw'
import type { MapSpec } from '@/core/map/spec'
import { planeAbout } from '@/core/projection/adviser'
import { entryOf, type ProjectionSpec } from '@/core/projection/catalogue'
import { IconButton, Row, Select } from '../../../kit/controls'
import type { ChangeSettings } from '../../edit-sheet'

/** “12° 30′ E, 4° S”. */
const placeWords = ([lon, lat]: readonly [number, number]): string =>
  `${degreesText('meridian', lon)}, ${degreesText('parallel', lat)}`

/** Whether a panel shows its map in the projection of the map, or in a plane about what it shows. */
export function ProjectionRow({
  own,
  map,
  centre,
  change,
}: {
  own: ProjectionSpec | null
  map: MapSpec
  centre: [number, number]
  change: ChangeSettings<'panel'>
}) {
  const here = planeAbout(map.projection, centre)
  const plane = own ?? here
  const take = (projection: ProjectionSpec | null) =>
    change('Projection', (s) => void (s.projection = projection))
  return (
    <Row label="Projection">
      <Select
        label="Projection of the panel"
        value={own ? 'own' : 'map'}
        options={[
          { value: 'map', label: 'that of the map' },
          { value: 'own', label: `${entryOf(plane).label} about ${placeWords(plane.centre)}` },
        ]}
        onChange={(which) => take(which === 'own' ? here : null)}
      />
      {own && (
        <IconButton label="Put the middle of the projection at the centre" onClick={() => take(here)}>
          <Crosshair size={14} />
        </IconButton>
      )}
    </Row>
  )
}
