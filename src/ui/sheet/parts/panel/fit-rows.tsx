'use client'
import { useState } from 'react'
import { rowName } from '@/core/data/row-names'
import { shownOf } from '@/core/map/shown'
import type { MapSpec } from '@/core/map/spec'
import { fitLayer, roundScale } from '@/core/map/view'
import type { PartBox } from '@/core/sheet/part'
import { Row, Select } from '../../../kit/controls'
import { usePrepared } from '../../../shell/contents'
import type { ChangeSettings } from '../../edit-sheet'

/** So many features are listed; a longer list is no help. */
const mostListed = 500

type Props = {
  map: MapSpec
  box: PartBox
  turnDeg: number | undefined
  change: ChangeSettings<'panel'>
}

/** Shows a layer whole in a panel, or one of its features, at a round scale. */
export function FitRows({ map, box, turnDeg, change }: Props) {
  const datasets = usePrepared()
  const [layerId, setLayerId] = useState('')
  const layer = map.layers.find(({ id }) => id === layerId)
  const shown = layer && shownOf(layer, datasets)
  const fit = (id: string, feature?: number) => {
    const to = fitLayer(map, id, { datasets, window: box, turnDeg, feature })
    if (to)
      change(feature === undefined ? 'Fit to a layer' : 'Fit to a feature', (s) => {
        s.view = { ...to, scaleDenominator: roundScale(to.scaleDenominator) }
      })
  }
  const names = shown
    ? Array.from({ length: Math.min(mostListed, shown.dataset.rowCount) }, (_, row) => ({
        value: String(row),
        label: rowName(shown, row),
      })).sort((a, b) => a.label.localeCompare(b.label, 'en'))
    : []
  return (
    <>
      <Row label="Fit to">
        <Select
          label="Fit to a layer"
          value={layer?.id ?? ''}
          options={[
            ...(layer ? [] : [{ value: '', label: 'a layer…' }]),
            ...map.layers.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => {
            setLayerId(id)
            fit(id)
          }}
        />
      </Row>
      {shown && names.length > 1 && (
        <Row label="and of it">
          <Select
            label="Fit to a feature"
            value=""
            options={[{ value: '', label: 'one feature…' }, ...names]}
            onChange={(row) => row && fit(layerId, Number(row))}
          />
        </Row>
      )}
      {shown && shown.dataset.rowCount > mostListed && (
        <p className="text-xs text-muted">
          The first {mostListed} of {shown.dataset.rowCount} are listed.
        </p>
      )}
    </>
  )
}
