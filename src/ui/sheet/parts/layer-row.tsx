'use client'
import { panelsOf, mapOfPanel } from '@/core/sheet/panel-view'
import type { ColourSource } from '@/core/sheet/figures/row-colours'
import { kindOf } from '@/core/kinds/registry'
import type { Sheet } from '@/core/sheet/spec'
import { Row, Select } from '../../kit/controls'
import { useDocument } from '../../shell/folio-store'

/** Which layer of which panel colours are taken from; only layers with classes of the dataset are offered. */
export function LayerRow({
  sheet,
  label,
  source,
  datasetId,
  onChange,
}: {
  sheet: Sheet
  label: string
  source: ColourSource | null
  datasetId: string | null
  onChange: (source: ColourSource | null) => void
}) {
  const { maps } = useDocument()
  const offered = panelsOf(sheet).flatMap((panel) =>
    (mapOfPanel(panel, maps)?.layers ?? [])
      .filter(
        (layer) =>
          kindOf(layer.symbology.kind).classings(layer.symbology.settings).length > 0 &&
          (datasetId === null || layer.datasetId === datasetId),
      )
      .map((layer) => ({
        value: JSON.stringify([panel.id, layer.id]),
        label: `${layer.name}, ${panel.name}`,
      })),
  )
  const value = source ? JSON.stringify([source.panelId, source.layerId]) : ''
  const known = offered.some((one) => one.value === value)
  return (
    <Row label={label}>
      <Select
        label={`${label}: layer`}
        value={known ? value : ''}
        options={[{ value: '', label: offered.length ? 'none' : 'no layer has classes of it' }, ...offered]}
        onChange={(next) => {
          if (!next) return onChange(null)
          const [panelId, layerId] = JSON.parse(next) as [string, string]
          onChange({ panelId, layerId })
        }}
      />
    </Row>
  )
}
