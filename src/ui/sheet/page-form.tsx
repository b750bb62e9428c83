'use client'
import { pageSizeOf, pageSizes, type PageSizeName, type Sheet } from '@/core/sheet/spec'
import { ColumnHead, Row, Section, Segments, Select } from '../kit/controls'
import { ColourField } from '../kit/colour-field'
import { NumberField } from '../kit/number-field'
import { TextField } from '../kit/text-field'
import { editSheet } from './edit-sheet'

type Side = 'top' | 'right' | 'bottom' | 'left'

/** The page itself: name, size, orientation, margins, paper. */
export function PageForm({ sheet }: { sheet: Sheet }) {
  const size = pageSizeOf(sheet.page)
  const landscape = sheet.page.widthMm >= sheet.page.heightMm
  const setPage = (widthMm: number, heightMm: number) =>
    editSheet(sheet.id, 'Page size', (draft) => void (draft.page = { widthMm, heightMm }))
  return (
    <>
      <ColumnHead title="Page">
        <span className="text-xs text-muted">{sheet.parts.length} parts</span>
      </ColumnHead>
      <Section title="Sheet">
        <Row label="Name">
          <TextField
            label="Name of the sheet"
            value={sheet.name}
            onChange={(name) => editSheet(sheet.id, 'Rename sheet', (draft) => void (draft.name = name))}
          />
        </Row>
      </Section>
      <Section title="Size">
        <Row label="Paper">
          <Select
            label="Paper size"
            value={size?.name ?? 'own'}
            options={[
              ...(Object.keys(pageSizes) as PageSizeName[]).map((name) => ({
                value: name as string,
                label: name as string,
              })),
              { value: 'own', label: 'Own size' },
            ]}
            onChange={(name) => {
              if (name === 'own') return setPage(sheet.page.widthMm + 10, sheet.page.heightMm)
              const [w, h] = pageSizes[name as PageSizeName]
              if (landscape) setPage(h, w)
              else setPage(w, h)
            }}
          />
        </Row>
        <Row label="Lies">
          <div className="flex-1">
            <Segments
              label="Orientation"
              value={landscape ? 'landscape' : 'upright'}
              options={[
                { value: 'upright', label: 'Upright' },
                { value: 'landscape', label: 'Landscape' },
              ]}
              onChange={(way) =>
                (way === 'landscape') !== landscape && setPage(sheet.page.heightMm, sheet.page.widthMm)
              }
            />
          </div>
        </Row>
        <Row label="Width, height">
          <NumberField
            label="Page width"
            value={sheet.page.widthMm}
            unit="mm"
            min={20}
            max={3000}
            onChange={(w) => setPage(w, sheet.page.heightMm)}
          />
          <NumberField
            label="Page height"
            value={sheet.page.heightMm}
            unit="mm"
            min={20}
            max={3000}
            onChange={(h) => setPage(sheet.page.widthMm, h)}
          />
        </Row>
      </Section>
      <Section title="Margins">
        {(
          [
            ['top', 'bottom'],
            ['left', 'right'],
          ] as const
        ).map((pair) => (
          <Row key={pair[0]} label={`${pair[0].charAt(0).toUpperCase()}${pair[0].slice(1)}, ${pair[1]}`}>
            {pair.map((side: Side) => (
              <NumberField
                key={side}
                label={`Margin ${side}`}
                value={sheet.margins[side]}
                unit="mm"
                min={0}
                max={500}
                onChange={(n) =>
                  editSheet(sheet.id, 'Margins', (draft) => void (draft.margins[side] = n), `margin ${side}`)
                }
              />
            ))}
          </Row>
        ))}
      </Section>
      <Section title="Paper">
        <Row label="Colour">
          <ColourField
            label="Paper colour"
            value={sheet.background}
            onChange={(colour) =>
              editSheet(sheet.id, 'Paper colour', (draft) => void (draft.background = colour), 'paper')
            }
          />
        </Row>
      </Section>
    </>
  )
}
