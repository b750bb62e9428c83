'use client'
import { Bookmark, X } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { Draft } from 'immer'
import { FormulaError, formulaValues } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'
import { rowKeys } from '@/core/data/row-names'
import { shownOf } from '@/core/map/shown'
import type { Layer, MapSpec, MapView, Vantage } from '@/core/map/spec'
import { extentOfRows, extentProblem, type Extent } from '@/core/map/vantage'
import { Button, IconButton, Row, Segments, Select } from '../kit/controls'
import { FormulaField } from '../kit/formula-field'
import { NumberField } from '../kit/number-field'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { editMap } from './edit-map'

type Source = 'view' | 'layer' | 'features' | 'degrees'

/**
 * The kept extents of a map: gone to, renamed, taken away, and new ones from the view, a layer, features or
 * typed degrees.
 */
export function Vantages({
  map,
  layer,
  all,
  view,
  goTo,
}: {
  map: MapSpec
  layer: Layer | undefined
  all: Map<string, Prepared>
  view: MapView | null
  goTo: (vantage: Vantage) => void
}) {
  return (
    <Popover
      label="Vantages"
      align="end"
      side="top"
      className="w-80"
      trigger={
        <IconButton label="Vantages">
          <Bookmark size={15} />
        </IconButton>
      }
    >
      {(close) => (
        <>
          <p className="px-1 text-xs text-muted">
            {map.vantages.length ? 'Kept extents' : 'No extents are kept yet.'}
          </p>
          <ul className="mb-2">
            {map.vantages.map((vantage) => (
              <li key={vantage.id} className="flex items-center gap-1">
                <Button
                  look="quiet"
                  aria-label={`Go to ${vantage.name}`}
                  onClick={() => {
                    goTo(vantage)
                    close()
                  }}
                >
                  Go
                </Button>
                <TextField
                  label={`Name of the vantage ${vantage.name}`}
                  value={vantage.name}
                  onChange={(name) =>
                    editMap(map.id, 'Rename vantage', (draft) => {
                      for (const one of draft.vantages) if (one.id === vantage.id) one.name = name.trim()
                    })
                  }
                />
                <IconButton
                  label={`Forget the vantage ${vantage.name}`}
                  onClick={() =>
                    editMap(
                      map.id,
                      `Forget the vantage ${vantage.name}`,
                      (draft) => void (draft.vantages = draft.vantages.filter(({ id }) => id !== vantage.id)),
                    )
                  }
                >
                  <X size={13} />
                </IconButton>
              </li>
            ))}
          </ul>
          <NewVantage map={map} layer={layer} all={all} view={view} />
        </>
      )}
    </Popover>
  )
}

function NewVantage({
  map,
  layer,
  all,
  view,
}: {
  map: MapSpec
  layer: Layer | undefined
  all: Map<string, Prepared>
  view: MapView | null
}) {
  const [from, setFrom] = useState<Source>('view')
  const [layerId, setLayerId] = useState(layer?.id ?? map.layers[0]?.id ?? '')
  const [row, setRow] = useState('')
  const [where, setWhere] = useState('')
  const [name, setName] = useState('')
  const [degrees, setDegrees] = useState<Extent>([-10, -10, 10, 10])
  const chosen = map.layers.find(({ id }) => id === layerId)
  const prepared = chosen ? shownOf(chosen, all) : null
  const keys = prepared && from === 'features' ? rowKeys(prepared) : []
  const wanted = from === 'view' ? null : wantedExtent()
  function wantedExtent(): { extent: Extent | null; problem: string | null } {
    if (from === 'degrees') return { extent: degrees, problem: extentProblem(degrees) }
    if (!prepared) return { extent: null, problem: 'Choose a layer.' }
    return featuresExtent(prepared, from === 'features' ? { row, where } : null)
  }
  const byLayer = from === 'features' && row ? row : (chosen?.name ?? '')
  const proposed =
    { view: `View ${map.vantages.length + 1}`, degrees: `Extent ${map.vantages.length + 1}` }[
      from as string
    ] ?? byLayer
  const keep = () => {
    const byExtent = wanted?.extent ? ({ by: 'extent', extent: wanted.extent } as const) : null
    const of: Vantage['of'] | null = from === 'view' ? view && { by: 'view', view } : byExtent
    if (!of) return
    const vantage: Vantage = { id: nanoid(8), name: name.trim() || proposed, of }
    editMap(
      map.id,
      `Keep the vantage ${vantage.name}`,
      (draft) => void draft.vantages.push(vantage as Draft<Vantage>),
    )
    setName('')
  }
  return (
    <div className="flex flex-col gap-1 border-t border-line pt-2">
      <Segments
        label="Keep"
        value={from}
        options={[
          { value: 'view', label: 'This view' },
          { value: 'layer', label: 'A layer' },
          { value: 'features', label: 'Features' },
          { value: 'degrees', label: 'Degrees' },
        ]}
        onChange={setFrom}
      />
      {(from === 'layer' || from === 'features') && (
        <Row label="Layer">
          <Select
            label="Layer of the vantage"
            value={layerId}
            options={map.layers.map((one) => ({ value: one.id, label: one.name }))}
            onChange={(id) => {
              setLayerId(id)
              setRow('')
            }}
          />
        </Row>
      )}
      {from === 'features' && prepared && (
        <>
          <Row label="Feature">
            <Select
              label="Feature of the vantage"
              value={row}
              options={[
                { value: '', label: 'those of the formula' },
                ...[...keys]
                  .sort()
                  .slice(0, 2000)
                  .map((key) => ({ value: key, label: key })),
              ]}
              onChange={setRow}
            />
          </Row>
          {row === '' && (
            <FormulaField
              label="Where"
              value={where}
              before={prepared}
              placeholder="population > 50000"
              onChange={setWhere}
            />
          )}
        </>
      )}
      {from === 'degrees' && (
        <>
          <Row label="West, east">
            <NumberField
              label="West side"
              value={degrees[0]}
              unit="°"
              min={-360}
              max={360}
              decimals={4}
              onChange={(n) => setDegrees([n, degrees[1], degrees[2], degrees[3]])}
            />
            <NumberField
              label="East side"
              value={degrees[2]}
              unit="°"
              min={-360}
              max={540}
              decimals={4}
              onChange={(n) => setDegrees([degrees[0], degrees[1], n, degrees[3]])}
            />
          </Row>
          <Row label="South, north">
            <NumberField
              label="South side"
              value={degrees[1]}
              unit="°"
              min={-90}
              max={90}
              decimals={4}
              onChange={(n) => setDegrees([degrees[0], n, degrees[2], degrees[3]])}
            />
            <NumberField
              label="North side"
              value={degrees[3]}
              unit="°"
              min={-90}
              max={90}
              decimals={4}
              onChange={(n) => setDegrees([degrees[0], degrees[1], degrees[2], n])}
            />
          </Row>
        </>
      )}
      {wanted?.problem && <p className="text-xs text-error">{wanted.problem}</p>}
      <div className="flex items-center gap-2">
        <input
          aria-label="Name of the new vantage"
          className="control w-full min-w-0"
          placeholder={proposed}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button
          look="primary"
          disabled={from === 'view' ? !view : !wanted?.extent || wanted.problem !== null}
          onClick={keep}
        >
          Keep
        </Button>
      </div>
    </div>
  )
}

/** The extent of a layer, of one feature, or of those for which a formula is true. */
function featuresExtent(
  prepared: Prepared,
  which: { row: string; where: string } | null,
): { extent: Extent | null; problem: string | null } {
  let rows: Int32Array | null = null
  if (which?.row) rows = Int32Array.of(rowKeys(prepared).indexOf(which.row))
  else if (which) {
    if (!which.where.trim()) return { extent: null, problem: null }
    try {
      rows = Int32Array.from(
        formulaValues(which.where, prepared.dataset).flatMap((value, i) => (value ? [i] : [])),
      )
    } catch (error) {
      if (!(error instanceof FormulaError)) throw error
      return { extent: null, problem: error.message }
    }
  }
  if (rows && !rows.length) return { extent: null, problem: 'No feature is so.' }
  const extent = extentOfRows(prepared, rows)
  return { extent, problem: extent ? null : 'Nothing there has a place.' }
}
