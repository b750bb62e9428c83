'use client'
import { Plus, Trash2 } from 'lucide-react'
import type { Draft } from 'immer'
import type { Prepared } from '@/core/data/prepare'
import { kindsOfCells } from '@/core/data/raster-kinds'
import type { LineGround, SurfaceLook } from '@/core/kinds/surfaces/look'
import { Button, IconButton, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { TextField } from '../../kit/text-field'
import { usePrepared } from '../../shell/contents'

type Props = {
  look: SurfaceLook
  onChange: (name: string, recipe: (look: Draft<SurfaceLook>) => void, merge?: string) => void
}

/** The kinds that a raster names; none for areas, and for a raster of amounts. */
const valuesOf = ({ dataset: { raster } }: Prepared): number[] =>
  raster ? kindsOfCells(raster, 0).values : []

/** Ground on which lines have another colour, such as rock and ice: areas of a dataset, or cells of a kind. */
export function LineGrounds({ look, onChange }: Props) {
  const all = usePrepared()
  const grounds = [...all.values()].filter(
    (prepared) => prepared.dataset.geometry.kind === 'areas' || valuesOf(prepared).length > 0,
  )
  const { on } = look.lines
  const set = (i: number, part: Partial<LineGround>, merge?: string) =>
    onChange('Colour of lines on some ground', (d) => void Object.assign(d.lines.on[i], part), merge)
  const taken = (datasetId: string): Partial<LineGround> => {
    const prepared = all.get(datasetId)
    return {
      datasetId,
      value: prepared?.dataset.raster ? (valuesOf(prepared)[0] ?? 0) : null,
      label: `on ${prepared?.entry.name.toLowerCase() ?? 'other ground'}`,
    }
  }
  return (
    <Section title="Lines on other ground">
      {on.map((ground, i) => {
        const prepared = all.get(ground.datasetId)
        return (
          <div key={i} className="flex flex-col gap-1">
            <Row label={`Ground ${i + 1}`}>
              <Select
                label={`Dataset of ground ${i + 1}`}
                value={ground.datasetId}
                options={grounds.map(({ entry }) => ({ value: entry.id, label: entry.name }))}
                onChange={(datasetId) => set(i, taken(datasetId))}
              />
              {ground.value !== null && prepared && (
                <Select
                  label={`Kind of ground ${i + 1}`}
                  value={String(ground.value)}
                  options={valuesOf(prepared).map((value) => ({
                    value: String(value),
                    label: String(value),
                  }))}
                  onChange={(value) => set(i, { value: Number(value) })}
                />
              )}
            </Row>
            <Row label="Lines there">
              <ColourField
                label={`Colour of lines on ground ${i + 1}`}
                value={ground.colour}
                onChange={(colour) => set(i, { colour }, `ground colour ${i}`)}
              />
              <IconButton
                label={`Remove ground ${i + 1}`}
                onClick={() => onChange('Remove a ground', (d) => void d.lines.on.splice(i, 1))}
              >
                <Trash2 size={14} />
              </IconButton>
            </Row>
            <Row label="Called">
              <TextField
                label={`Name of ground ${i + 1} in the legend`}
                value={ground.label}
                onChange={(label) => set(i, { label })}
              />
            </Row>
          </div>
        )
      })}
      {on.length < 8 && grounds.length > 0 && (
        <Button
          className="w-full"
          onClick={() =>
            onChange('Lines on other ground', (d) => {
              const first = { datasetId: '', value: null, label: '', colour: '#a2582c' }
              d.lines.on.push({ ...first, ...taken(grounds[0].entry.id) })
            })
          }
        >
          <Plus size={14} aria-hidden /> Another colour on some ground
        </Button>
      )}
    </Section>
  )
}
