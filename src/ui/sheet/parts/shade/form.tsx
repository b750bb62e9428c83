'use client'
import { panelsOf } from '@/core/sheet/panel-view'
import { readyShades } from '@/core/sheet/parts/shade'
import type { Fill } from '@/core/sheet/fill'
import { Button, Row, Section, Select } from '../../../kit/controls'
import { NumberField } from '../../../kit/number-field'
import { editPart, settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { FillRows } from '../fill-rows'

const sorts: Fill['by'][] = ['linear', 'round', 'inward', 'plain']
type Ready = keyof typeof readyShades

/** The gradient of a shade, and what it lies over. */
export function ShadeForm({ sheet, part }: FormProps<'shade'>) {
  const { fill, cornerMm } = part.settings
  const change = settingsChanger(sheet.id, part)
  const cover = (id: string) => {
    const panel = panelsOf(sheet).find((one) => one.id === id)
    const { widthMm, heightMm } = sheet.page
    editPart({ sheetId: sheet.id, partId: part.id }, `Cover ${panel?.name ?? 'the page'}`, (draft) => {
      draft.box = panel ? { ...panel.box } : { x: 0, y: 0, width: widthMm, height: heightMm }
      draft.rotationDeg = panel?.rotationDeg ?? 0
    })
  }
  return (
    <Section title="Gradient">
      <div className="flex flex-wrap gap-1">
        {(Object.keys(readyShades) as Ready[]).map((name) => (
          <Button
            key={name}
            className="!h-6 !px-1.5 text-xs"
            onClick={() => change(name, (s) => void (s.fill = structuredClone(readyShades[name]) as Fill))}
          >
            {name}
          </Button>
        ))}
      </div>
      <Row label="Lies over">
        <Select
          label="Cover"
          value=""
          options={[
            { value: '', label: 'choose…' },
            { value: 'page', label: 'the whole page' },
            ...panelsOf(sheet).map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => id && cover(id)}
        />
      </Row>
      <FillRows
        fill={fill}
        sorts={sorts}
        onChange={(next, merge) => change('Gradient', (s) => void (s.fill = next), merge)}
      />
      <Row label="Corners">
        <NumberField
          label="Radius of the corners"
          value={cornerMm}
          unit="mm"
          min={0}
          max={500}
          onChange={(n) => change('Corners', (s) => void (s.cornerMm = n), 'corners')}
        />
        <span className="flex-1" />
      </Row>
    </Section>
  )
}
