'use client'
import { Lock, LockOpen, Plus, Trash2, Eye, EyeOff } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { innerBox } from '@/core/sheet/page'
import { resizedPage, type PartsWhenResized } from '@/core/sheet/resize-page'
import { guideMm, pageSizeOf, pageSizes, type Guide, type PageSizeName, type Sheet } from '@/core/sheet/spec'
import { Button, Check, ColumnHead, IconButton, Row, Section, Segments, Select } from '../kit/controls'
import { ColourField } from '../kit/colour-field'
import { Fold } from '../kit/fold'
import { NumberField } from '../kit/number-field'
import { TextField } from '../kit/text-field'
import { editSheet, tidyMm } from './edit-sheet'
import { LooksForm } from './looks-form'
import { KeepTemplate } from './templates/keep-template'
import { removeGuide, setGuide } from './paper/overlays'

type Side = 'top' | 'right' | 'bottom' | 'left'

/** The page itself: name, size, orientation, margins, paper, guides and grid. */
export function PageForm({ sheet }: { sheet: Sheet }) {
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
        <Row label="Paper">
          <ColourField
            label="Paper colour"
            value={sheet.background}
            onChange={(colour) =>
              editSheet(sheet.id, 'Paper colour', (draft) => void (draft.background = colour), 'paper')
            }
          />
        </Row>
      </Section>
      <SizeForm sheet={sheet} />
      <MarginForm sheet={sheet} />
      <GuideForm sheet={sheet} />
      <GridForm sheet={sheet} />
      <LooksForm />
      <div className="p-3">
        <KeepTemplate sheet={sheet} />
      </div>
    </>
  )
}

function SizeForm({ sheet }: { sheet: Sheet }) {
  const [parts, setParts] = useState<PartsWhenResized>('proportion')
  const size = pageSizeOf(sheet.page)
  const landscape = sheet.page.widthMm >= sheet.page.heightMm
  const [asked, setAsked] = useState<{ doing: string; widthMm: number; heightMm: number } | null>(null)
  const setPage = (widthMm: number, heightMm: number, how = parts) =>
    editSheet(sheet.id, 'Page size', (draft) => {
      Object.assign(draft, resizedPage(sheet, { widthMm, heightMm }, how))
    })
  /** Another paper changes much at once: what becomes of the parts is asked. */
  const askFor = (doing: string, widthMm: number, heightMm: number) =>
    sheet.parts.length ? setAsked({ doing, widthMm, heightMm }) : setPage(widthMm, heightMm)
  const answer = (how: PartsWhenResized) => {
    if (asked) setPage(asked.widthMm, asked.heightMm, how)
    setAsked(null)
  }
  return (
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
            if (landscape) askFor(name, h, w)
            else askFor(name, w, h)
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
              (way === 'landscape') !== landscape &&
              askFor(way === 'landscape' ? 'Landscape' : 'Upright', sheet.page.heightMm, sheet.page.widthMm)
            }
          />
        </div>
      </Row>
      {asked && (
        <div
          role="group"
          aria-label={`${asked.doing}: what becomes of the parts`}
          className="flex flex-col gap-1 rounded border border-line bg-base-200 p-2"
        >
          <p className="text-xs">
            {asked.doing}, {tidyMm(asked.widthMm)} × {tidyMm(asked.heightMm)} mm. The {sheet.parts.length}{' '}
            parts
          </p>
          <div className="flex flex-wrap gap-1">
            <Button onClick={() => answer('proportion')}>change in proportion</Button>
            <Button onClick={() => answer('place')}>stay in place</Button>
            <Button look="quiet" onClick={() => setAsked(null)}>
              Cancel
            </Button>
          </div>
        </div>
      )}
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
      {sheet.parts.length > 0 && (
        <Row label="Parts then">
          <div className="flex-1">
            <Segments
              label="Parts when the page changes"
              value={parts}
              options={[
                { value: 'proportion', label: 'Change too' },
                { value: 'place', label: 'Stay' },
              ]}
              onChange={setParts}
            />
          </div>
        </Row>
      )}
    </Section>
  )
}

const MarginForm = ({ sheet }: { sheet: Sheet }) => (
  <Section title="Margins and bleed">
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
    <Row label="Bleed">
      <NumberField
        label="Bleed"
        value={sheet.bleedMm}
        unit="mm"
        min={0}
        max={50}
        onChange={(n) => editSheet(sheet.id, 'Bleed', (draft) => void (draft.bleedMm = n), 'bleed')}
      />
      <span className="flex-1" />
    </Row>
  </Section>
)

function GuideForm({ sheet }: { sheet: Sheet }) {
  const { lines, locked, hidden } = sheet.guides
  const [fractions, setFractions] = useState({ columns: 3, rows: 1 })
  const edit = (name: string, recipe: (guides: Sheet['guides']) => void) =>
    editSheet(sheet.id, name, (draft) => recipe(draft.guides))
  const add = (name: string, made: Omit<Guide, 'id'>[]) =>
    edit(name, (guides) => {
      guides.lines.push(...made.map((guide) => ({ ...guide, id: nanoid(6) })))
      guides.hidden = false
    })
  const inner = innerBox(sheet)
  const atFractions = (n: number, axis: 'x' | 'y'): Omit<Guide, 'id'>[] =>
    Array.from({ length: n - 1 }, (_, i) => ({ axis, at: { by: 'fraction', fraction: (i + 1) / n } }))
  return (
    <Fold title="Guides" aside={lines.length ? String(lines.length) : ''}>
      <p className="text-xs text-muted">Pull one out of a ruler, or set it here.</p>
      {lines.map((guide) => (
        <Row key={guide.id} label={guide.axis === 'x' ? 'From left' : 'From top'}>
          <NumberField
            label={guide.axis === 'x' ? 'Guide from left' : 'Guide from top'}
            value={guideMm(guide, sheet.page)}
            unit="mm"
            disabled={locked}
            onChange={(mm) => setGuide(sheet.id, guide.id, mm)}
          />
          <IconButton label="Remove guide" disabled={locked} onClick={() => removeGuide(sheet.id, guide.id)}>
            <Trash2 size={14} />
          </IconButton>
        </Row>
      ))}
      <div className="flex flex-wrap gap-1">
        <Button
          onClick={() => add('Add guide', [{ axis: 'x', at: { by: 'mm', mm: sheet.page.widthMm / 2 } }])}
        >
          <Plus size={14} aria-hidden /> Upright
        </Button>
        <Button
          onClick={() => add('Add guide', [{ axis: 'y', at: { by: 'mm', mm: sheet.page.heightMm / 2 } }])}
        >
          <Plus size={14} aria-hidden /> Level
        </Button>
        <Button
          onClick={() =>
            add('Guides from margins', [
              { axis: 'x', at: { by: 'mm', mm: inner.x } },
              { axis: 'x', at: { by: 'mm', mm: inner.x + inner.width } },
              { axis: 'y', at: { by: 'mm', mm: inner.y } },
              { axis: 'y', at: { by: 'mm', mm: inner.y + inner.height } },
            ])
          }
        >
          From margins
        </Button>
      </div>
      <Row label="At fractions">
        <NumberField
          label="Columns of guides"
          value={fractions.columns}
          min={1}
          max={24}
          decimals={0}
          onChange={(columns) => setFractions({ ...fractions, columns })}
        />
        <NumberField
          label="Rows of guides"
          value={fractions.rows}
          min={1}
          max={24}
          decimals={0}
          onChange={(rows) => setFractions({ ...fractions, rows })}
        />
        <Button
          onClick={() =>
            add('Guides at fractions', [
              ...atFractions(fractions.columns, 'x'),
              ...atFractions(fractions.rows, 'y'),
            ])
          }
        >
          Set
        </Button>
      </Row>
      {lines.length > 0 && (
        <div className="flex items-center gap-1">
          <IconButton
            label={locked ? 'Unlock guides' : 'Lock guides'}
            onClick={() => edit(locked ? 'Unlock guides' : 'Lock guides', (g) => void (g.locked = !locked))}
          >
            {locked ? <Lock size={14} /> : <LockOpen size={14} />}
          </IconButton>
          <IconButton
            label={hidden ? 'Show guides' : 'Hide guides'}
            onClick={() => edit(hidden ? 'Show guides' : 'Hide guides', (g) => void (g.hidden = !hidden))}
          >
            {hidden ? <EyeOff size={14} /> : <Eye size={14} />}
          </IconButton>
          <Button
            look="quiet"
            disabled={locked}
            onClick={() => edit('Remove all guides', (g) => void (g.lines = []))}
          >
            Remove all
          </Button>
        </div>
      )}
    </Fold>
  )
}

function GridForm({ sheet }: { sheet: Sheet }) {
  const { spacingMm, shown, snaps } = sheet.grid
  const edit = (name: string, recipe: (grid: Sheet['grid']) => void, merge?: string) =>
    editSheet(sheet.id, name, (draft) => recipe(draft.grid), merge)
  return (
    <Fold title="Grid" aside={shown || snaps ? `${spacingMm} mm` : ''}>
      <Row label="Spacing">
        <NumberField
          label="Spacing of the grid"
          value={spacingMm}
          unit="mm"
          min={0.5}
          max={500}
          onChange={(n) => edit('Grid', (grid) => void (grid.spacingMm = n), 'grid')}
        />
        <span className="flex-1" />
      </Row>
      <Check
        label="Show the grid"
        checked={shown}
        onChange={(on) => edit('Show grid', (g) => void (g.shown = on))}
      />
      <Check
        label="Snap to the grid"
        checked={snaps}
        onChange={(on) => edit('Snap to grid', (g) => void (g.snaps = on))}
      />
    </Fold>
  )
}
