'use client'
import { lookIds, looks, type Look } from '@/core/sheet/parts/north-arrow/looks'
import { Row, Section, Segments } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { TextField } from '../../../kit/text-field'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { PanelRow } from '../panel-row'
import { TypeStyleRows } from '../type-style-rows'

/** Which arrow, on which panel, in which colours. */
export function NorthArrowForm({ sheet, part }: FormProps<'north-arrow'>) {
  const { look, north, dark, light, lineWidthPt, letter, style, panelId } = part.settings
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section title="Arrow">
        <div role="radiogroup" aria-label="Look of the arrow" className="grid grid-cols-6 gap-1">
          {lookIds.map((id) => (
            <button
              key={id}
              type="button"
              role="radio"
              aria-checked={id === look}
              aria-label={looks[id].label}
              title={looks[id].label}
              onClick={() => change('Look of the arrow', (s) => void (s.look = id))}
              className={`grid h-11 place-items-center rounded border bg-white text-[#1b1b1b] ${id === look ? 'border-primary ring-1 ring-primary' : 'border-line hover:border-muted'}`}
            >
              <SmallArrow look={looks[id]} />
            </button>
          ))}
        </div>
        <PanelRow
          sheet={sheet}
          label="Points on"
          panelId={panelId}
          onChange={(id) => change('Point on another panel', (s) => void (s.panelId = id))}
        />
        <Row label="North">
          <div className="flex-1">
            <Segments
              label="Which north"
              value={north}
              options={[
                { value: 'true', label: 'True' },
                { value: 'grid', label: 'Grid' },
              ]}
              onChange={(next) => change('North', (s) => void (s.north = next))}
            />
          </div>
        </Row>
        <Row label="Colours">
          <ColourField
            label="Dark colour of the arrow"
            value={dark}
            onChange={(colour) => change('Colour of the arrow', (s) => void (s.dark = colour), 'dark')}
          />
          <ColourField
            label="Light colour of the arrow"
            value={light}
            onChange={(colour) => change('Colour of the arrow', (s) => void (s.light = colour), 'light')}
          />
        </Row>
        <Row label="Line, letter">
          <NumberField
            label="Line width of the arrow"
            value={lineWidthPt}
            unit="pt"
            min={0.1}
            max={10}
            step={0.1}
            onChange={(n) => change('Line of the arrow', (s) => void (s.lineWidthPt = n), 'line')}
          />
          <TextField
            label="Letter of the arrow"
            value={letter}
            onChange={(next) => change('Letter of the arrow', (s) => void (s.letter = next.slice(0, 12)))}
          />
        </Row>
      </Section>
      <Section title="Lettering">
        <TypeStyleRows
          label="Type"
          style={style}
          onChange={(next) =>
            change('Type', (s) => void Object.assign(s.style, next), `type ${Object.keys(next)[0]}`)
          }
        />
      </Section>
    </>
  )
}

const points = (list: readonly (readonly [number, number])[]): string =>
  list.map(([x, y]) => `${x},${-y}`).join(' ')

const shades = { dark: '#1b1b1b', light: '#ffffff' }

/** An arrow drawn small, for choosing. */
const SmallArrow = ({ look }: { look: Look }) => (
  <svg viewBox="-1.05 -1.05 2.1 2.1" className="size-9" aria-hidden>
    {look.strokes.map((piece, i) => {
      if (piece.draw === 'ring')
        return (
          <circle
            key={i}
            cx={piece.at?.[0] ?? 0}
            cy={-(piece.at?.[1] ?? 0)}
            r={piece.r}
            fill={piece.fill ? shades[piece.fill] : 'none'}
            stroke="#1b1b1b"
            strokeWidth={0.05}
          />
        )
      return piece.draw === 'area' ? (
        <polygon
          key={i}
          points={points(piece.points)}
          fill={shades[piece.fill]}
          stroke="#1b1b1b"
          strokeWidth={0.03}
        />
      ) : (
        <polyline key={i} points={points(piece.points)} fill="none" stroke="#1b1b1b" strokeWidth={0.05} />
      )
    })}
  </svg>
)
