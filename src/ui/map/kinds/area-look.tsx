'use client'
import type { Draft } from 'immer'
import type { AreaLook } from '@/core/kinds/area-drawing'
import type { Prepared } from '@/core/data/prepare'
import { Check, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { usePrepared } from '../../shell/contents'
import { PencilSection } from './pencil-section'

type Props = {
  look: AreaLook
  prepared: Prepared
  onChange: (name: string, recipe: (look: Draft<AreaLook>) => void, merge?: string) => void
}

/** What missing values look like; stands in the section of the fill. */
export function MissingRows({ look: { missing }, onChange }: Omit<Props, 'prepared'>) {
  return (
    <>
      <Row label="Missing">
        <ColourField
          label="Colour of missing values"
          value={missing.colour}
          onChange={(colour) =>
            onChange('Colour missing values', (d) => void (d.missing.colour = colour), 'missing colour')
          }
        />
        <Check
          label="Hatch"
          checked={missing.hatched}
          onChange={(hatched) => onChange('Hatch missing values', (d) => void (d.missing.hatched = hatched))}
        />
      </Row>
      <Row label="Called">
        <TextField
          label="Label of missing values"
          value={missing.label}
          onChange={(label) => onChange('Label missing values', (d) => void (d.missing.label = label))}
        />
      </Row>
    </>
  )
}

/** Lines between areas, between groups of them and around all; the ground that is shaded. */
export function AreaLookSections({ look, prepared, onChange }: Props) {
  const all = usePrepared()
  const { outline: o, mask } = look
  const texts = prepared.dataset.fields
    .filter(({ column }) => column.kind !== 'number')
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const grounds = [...all.values()]
    .filter(({ dataset, entry }) => dataset.geometry.kind === 'areas' && entry.id !== prepared.entry.id)
    .map(({ entry }) => ({ value: entry.id, label: entry.name }))
  return (
    <>
      <PencilSection pencil={look.pencil} onChange={onChange} />
      <Section title="Outline">
        <Row label="Between">
          {o.from === 'colour' && (
            <ColourField
              label="Outline colour between areas"
              value={o.colour}
              onChange={(colour) =>
                onChange('Outline colour', (d) => void (d.outline.colour = colour), 'outline colour')
              }
            />
          )}
          <NumberField
            label="Outline width between areas"
            value={o.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.05}
            onChange={(w) => onChange('Outline width', (d) => void (d.outline.widthPt = w), 'outline width')}
          />
        </Row>
        <Row label="Its colour">
          <div className="flex-1">
            <Segments
              label="Colour of outlines"
              value={o.from}
              options={[
                { value: 'colour', label: 'One' },
                { value: 'fill', label: 'Its fill' },
              ]}
              onChange={(from) => onChange('Colour of outlines', (d) => void (d.outline.from = from))}
            />
          </div>
        </Row>
        <Row label="Outer edge">
          <ColourField
            label="Outer edge colour"
            value={o.coastColour}
            onChange={(colour) =>
              onChange('Edge colour', (d) => void (d.outline.coastColour = colour), 'edge colour')
            }
          />
          <NumberField
            label="Outer edge width"
            value={o.coastWidthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.05}
            onChange={(w) => onChange('Edge width', (d) => void (d.outline.coastWidthPt = w), 'edge width')}
          />
        </Row>
        {texts.length > 0 && (
          <Row label="Heavier by">
            <Select
              label="Heavier lines between groups by"
              value={o.level?.field ?? ''}
              options={[{ value: '', label: 'nothing' }, ...texts]}
              onChange={(field) =>
                onChange(
                  'Lines between groups',
                  (d) =>
                    void (d.outline.level = field
                      ? {
                          field,
                          colour: d.outline.level?.colour ?? '#4d5b60',
                          widthPt: d.outline.level?.widthPt ?? 0.6,
                        }
                      : null),
                )
              }
            />
          </Row>
        )}
        {o.level && (
          <Row label="Those lines">
            <ColourField
              label="Colour of lines between groups"
              value={o.level.colour}
              onChange={(colour) =>
                onChange(
                  'Colour of group lines',
                  (d) => void (d.outline.level && (d.outline.level.colour = colour)),
                  'level colour',
                )
              }
            />
            <NumberField
              label="Width of lines between groups"
              value={o.level.widthPt}
              unit="pt"
              min={0}
              max={20}
              step={0.05}
              onChange={(w) =>
                onChange(
                  'Width of group lines',
                  (d) => void (d.outline.level && (d.outline.level.widthPt = w)),
                  'level width',
                )
              }
            />
          </Row>
        )}
        <Row label="Drawn last">
          <div className="flex-1">
            <Segments
              label="Classes drawn last"
              value={look.last}
              options={[
                { value: 'high', label: 'High' },
                { value: 'low', label: 'Low' },
              ]}
              onChange={(last) => onChange('Order of drawing', (d) => void (d.last = last))}
            />
          </div>
        </Row>
      </Section>
      {grounds.length > 0 && (
        <Section title="Ground">
          <Row label="Shade only">
            <Select
              label="Shade only the ground of"
              value={mask?.datasetId ?? ''}
              options={[
                { value: '', label: 'whole areas' },
                ...grounds.map(({ value, label }) => ({ value, label: `within ${label.toLowerCase()}` })),
              ]}
              onChange={(id) =>
                onChange(
                  id ? 'Shade part of the ground' : 'Shade whole areas',
                  (d) =>
                    void (d.mask = id ? { datasetId: id, elsewhere: d.mask?.elsewhere ?? '#f0efe9' } : null),
                )
              }
            />
          </Row>
          {mask && (
            <Row label="Elsewhere">
              <ColourField
                label="Colour of the rest"
                value={mask.elsewhere}
                onChange={(colour) =>
                  onChange(
                    'Colour of the rest',
                    (d) => void (d.mask && (d.mask.elsewhere = colour)),
                    'elsewhere',
                  )
                }
              />
            </Row>
          )}
        </Section>
      )}
    </>
  )
}
