'use client'
import { panelsOf } from '@/core/sheet/panel-view'
import type { Sheet } from '@/core/sheet/spec'
import { Row, Select } from '../../kit/controls'

/** Which panel a part belongs to; not asked where there is only one. */
export function PanelRow({
  sheet,
  label,
  panelId,
  onChange,
}: {
  sheet: Sheet
  label: string
  panelId: string | null
  onChange: (panelId: string) => void
}) {
  const panels = panelsOf(sheet)
  if (panels.length < 2) return null
  const known = panels.some(({ id }) => id === panelId)
  return (
    <Row label={label}>
      <Select
        label="Panel it belongs to"
        value={known && panelId !== null ? panelId : panels[0].id}
        options={panels.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={onChange}
      />
    </Row>
  )
}
