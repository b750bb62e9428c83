'use client'
import { fillInNames, fillInWords, unknownFillIns } from '@/core/sheet/fill-ins'
import type { Draft } from 'immer'
import type { TextSettings } from '@/core/sheet/parts/text'
import { alignEachAfter, spansAfter } from '@/core/sheet/lettering/runs'
import { hyphenLanguages, type HyphenLanguage } from '@/core/sheet/lettering/spec'
import { Row, Section, Segments, Select } from '../../../kit/controls'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { settingsChanger } from '../../edit-sheet'
import { EffectRows } from '../effect-rows'
import type { FormProps } from '../face'
import { GroundRows } from '../ground-rows'
import { TypeStyleRows } from '../type-style-rows'

/** The words of a text, how they are set, and what lies around them. */
export const TextForm = ({ sheet, part }: FormProps<'text'>) => (
  <TextRows settings={part.settings} change={settingsChanger(sheet.id, part)} />
)

/** Changes the settings of whatever is a text, or more than one. */
export type ChangeText = (
  name: string,
  recipe: (settings: Draft<TextSettings>) => void,
  merge?: string,
) => void

export function TextRows({ settings: s, change }: { settings: TextSettings; change: ChangeText }) {
  const unknown = unknownFillIns(s.text)
  const number = (
    label: string,
    key: 'leading' | 'paragraphGapMm' | 'indentMm' | 'gutterMm' | 'leastHeightMm',
    more: { unit: string; max: number; min?: number; step?: number },
  ) => (
    <NumberField
      label={label}
      value={s[key]}
      min={0}
      onChange={(n) => change(label, (d) => void (d[key] = n), key)}
      {...more}
    />
  )
  return (
    <>
      <Section title="Words">
        <textarea
          aria-label="Words"
          rows={3}
          className="control !h-auto w-full py-1"
          value={s.text}
          onChange={(event) => {
            const next = event.target.value
            change(
              'Change text',
              (d) => {
                d.spans = spansAfter(d.text, next, d.spans)
                d.alignEach = alignEachAfter(d.text, next, d.alignEach)
                d.text = next
              },
              'text',
            )
          }}
        />
        {unknown.length > 0 && (
          <p className="text-xs text-error" role="alert">
            {unknown.join(', ')} is no fill-in and will be printed as it stands.
          </p>
        )}
        <Select
          label="Put in a fill-in"
          value=""
          options={[
            { value: '', label: 'Put in a fill-in…' },
            ...fillInNames.map((name) => ({ value: name as string, label: fillInWords[name] })),
          ]}
          onChange={(name) => name && change('Add a fill-in', (d) => void (d.text = `${d.text}{{${name}}}`))}
        />
      </Section>
      <Section title="Text">
        <TypeStyleRows
          label="Type"
          style={s.style}
          spacing
          onChange={(next) =>
            change('Type', (d) => void Object.assign(d.style, next), `type ${Object.keys(next)[0]}`)
          }
        />
        <Row label="Aligned">
          <div className="flex-1">
            <Segments
              label="Alignment"
              value={s.align}
              options={[
                { value: 'left', label: 'Left' },
                { value: 'centre', label: 'Centre' },
                { value: 'right', label: 'Right' },
                { value: 'justified', label: 'Both' },
              ]}
              onChange={(next) =>
                change('Align text', (d) => void Object.assign(d, { align: next, alignEach: [] }))
              }
            />
          </div>
        </Row>
        <Row label="Leading">
          {number('Leading', 'leading', { unit: '×', min: 0.7, max: 3, step: 0.05 })}
          <span className="flex-1" />
        </Row>
      </Section>
      <Fold title="Paragraphs and columns" aside={s.columns > 1 ? `${s.columns} columns` : ''}>
        <Row label="Gap, indent">
          {number('Gap between paragraphs', 'paragraphGapMm', { unit: 'mm', max: 100, step: 0.5 })}
          {number('Indent of first lines', 'indentMm', { unit: 'mm', max: 100, step: 0.5 })}
        </Row>
        <Row label="Columns">
          <NumberField
            label="Columns of text"
            value={s.columns}
            min={1}
            max={8}
            decimals={0}
            onChange={(n) => change('Columns', (d) => void (d.columns = n), 'columns')}
          />
          {number('Gutter between columns', 'gutterMm', { unit: 'mm', max: 100 })}
        </Row>
        <Row label="Hyphens">
          <Select
            label="Hyphenation"
            value={s.hyphenate ?? ''}
            options={[
              { value: '', label: 'none' },
              ...Object.entries(hyphenLanguages).map(([value, label]) => ({ value, label })),
            ]}
            onChange={(id) =>
              change('Hyphenation', (d) => void (d.hyphenate = (id || null) as HyphenLanguage | null))
            }
          />
        </Row>
        <Row label="First letter">
          <NumberField
            label="Lines that the first letter is high"
            value={s.initialLines}
            unit="lines"
            min={0}
            max={8}
            decimals={0}
            onChange={(n) => change('First letter', (d) => void (d.initialLines = n), 'initial')}
          />
          <span className="flex-1" />
        </Row>
        <Row label="Least height">
          {number('Least height', 'leastHeightMm', { unit: 'mm', max: 3000 })}
          <Select
            label="Stands at"
            value={s.vertical}
            options={[
              { value: 'top', label: 'at the top' },
              { value: 'middle', label: 'in the middle' },
              { value: 'bottom', label: 'at the foot' },
            ]}
            onChange={(next) => change('Stand of the text', (d) => void (d.vertical = next))}
          />
        </Row>
        <Row label="Along an arc">
          <NumberField
            label="Radius of the arc, 0 for straight"
            value={s.arcRadiusMm ?? 0}
            unit="mm"
            min={-3000}
            max={3000}
            step={5}
            onChange={(n) => change('Along an arc', (d) => void (d.arcRadiusMm = n || null), 'arc')}
          />
          <span className="flex-1" />
        </Row>
      </Fold>
      <GroundRows
        ground={s.ground}
        onChange={(name, next, merge) => change(name, (d) => void Object.assign(d.ground, next), merge)}
      />
      <EffectRows
        effects={s.effects}
        onChange={(name, next, merge) => change(name, (d) => void Object.assign(d.effects, next), merge)}
      />
    </>
  )
}
