'use client'
import { Plus, X } from 'lucide-react'
import { capitalForms, type LabelSettings } from '@/core/labels/spec'
import { fontFamilies, fontFamilyIds } from '@/core/scene/fonts'
import { Button, Check, IconButton, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import type { Change } from './change'

const weights = { 300: 'light', 400: 'regular', 600: 'semibold', 700: 'bold' } as const

/** How the labels of a layer are set. */
export function Lettering({ labels, change }: { labels: LabelSettings; change: Change }) {
  return (
    <Section title="Lettering">
      <Row label="Typeface">
        <Select
          label="Typeface of labels"
          value={labels.family}
          options={fontFamilyIds.map((id) => ({ value: id, label: fontFamilies[id].label }))}
          onChange={(family) => change('Typeface of labels', (d) => void (d.family = family))}
        />
      </Row>
      <Row label="Size">
        <NumberField
          label="Size of labels"
          value={labels.sizePt}
          unit="pt"
          min={2}
          max={144}
          step={0.5}
          onChange={(n) => change('Size of labels', (d) => void (d.sizePt = n), 'size')}
        />
      </Row>
      <Row label="Style">
        <Select
          label="Weight of labels"
          value={String(labels.weight)}
          options={Object.entries(weights).map(([value, label]) => ({ value, label }))}
          onChange={(weight) => change('Weight of labels', (d) => void (d.weight = Number(weight) as 400))}
        />
        <Check
          label="italic"
          checked={labels.italic}
          onChange={(italic) => change('Slope of labels', (d) => void (d.italic = italic))}
        />
      </Row>
      <Row label="Letters">
        <Select
          label="Capitals"
          value={labels.capitals}
          options={capitalForms.map((value) => ({ value, label: value }))}
          onChange={(capitals) => change('Capitals', (d) => void (d.capitals = capitals))}
        />
      </Row>
      <Row label="Spacing">
        <NumberField
          label="Letter-spacing"
          value={labels.spacing * 100}
          unit="%"
          min={-10}
          max={200}
          step={2}
          decimals={0}
          onChange={(n) => change('Letter-spacing', (d) => void (d.spacing = n / 100), 'spacing')}
        />
      </Row>
      <Row label="Colour">
        <ColourField
          label="Colour of labels"
          value={labels.colour}
          onChange={(colour) => change('Colour of labels', (d) => void (d.colour = colour), 'colour')}
        />
      </Row>
      <Row label="Halo">
        <ColourField
          label="Colour of the halo"
          value={labels.halo.colour}
          onChange={(colour) => change('Colour of the halo', (d) => void (d.halo.colour = colour), 'halo')}
        />
        <NumberField
          label="Width of the halo"
          value={labels.halo.widthPt}
          unit="pt"
          min={0}
          max={10}
          step={0.2}
          onChange={(n) => change('Width of the halo', (d) => void (d.halo.widthPt = n), 'halo width')}
        />
      </Row>
      <Row label="Lines">
        <Check
          label="broken at"
          checked={labels.breakAtMm !== null}
          onChange={(on) => change('Line breaks', (d) => void (d.breakAtMm = on ? 18 : null))}
        />
        {labels.breakAtMm !== null && (
          <NumberField
            label="Widest line"
            value={labels.breakAtMm}
            unit="mm"
            min={2}
            max={400}
            step={1}
            onChange={(n) => change('Widest line', (d) => void (d.breakAtMm = n), 'break')}
          />
        )}
      </Row>
    </Section>
  )
}

/** Sizes that go by a value, class by class. */
export function SizeByClass({
  labels,
  change,
  numbers,
}: {
  labels: LabelSettings
  change: Change
  numbers: { value: string; label: string }[]
}) {
  const { sizeBy } = labels
  return (
    <Section title="Size by value">
      <Row label="Of">
        <Select
          label="Size of labels by"
          value={sizeBy?.field ?? ''}
          options={numbers}
          onChange={(field) =>
            change(
              'Size by value',
              (d) =>
                void (d.sizeBy = field
                  ? { field, steps: d.sizeBy?.steps ?? [{ atLeast: 0, sizePt: d.sizePt }] }
                  : null),
            )
          }
        />
      </Row>
      {sizeBy?.steps.map((step, i) => (
        <div key={i} className="flex items-center gap-1.5">
          <span className="text-xs text-muted">from</span>
          <NumberField
            label={`Value of step ${i + 1}`}
            value={step.atLeast}
            onChange={(n) =>
              change('Size by value', (d) => void (d.sizeBy && (d.sizeBy.steps[i].atLeast = n)), `step ${i}`)
            }
          />
          <NumberField
            label={`Size of step ${i + 1}`}
            className="!w-[76px] !flex-none"
            value={step.sizePt}
            unit="pt"
            min={2}
            max={144}
            step={0.5}
            onChange={(n) =>
              change('Size by value', (d) => void (d.sizeBy && (d.sizeBy.steps[i].sizePt = n)), `size ${i}`)
            }
          />
          <IconButton
            label={`Without step ${i + 1}`}
            onClick={() => change('Size by value', (d) => void d.sizeBy?.steps.splice(i, 1))}
          >
            <X size={13} />
          </IconButton>
        </div>
      ))}
      {sizeBy && sizeBy.steps.length < 8 && (
        <Button
          className="!h-6 self-start !text-xs"
          onClick={() =>
            change(
              'Size by value',
              (d) =>
                void d.sizeBy?.steps.push({
                  atLeast: (d.sizeBy.steps.at(-1)?.atLeast ?? 0) + 1,
                  sizePt: (d.sizeBy.steps.at(-1)?.sizePt ?? d.sizePt) + 1,
                }),
            )
          }
        >
          <Plus size={12} /> step
        </Button>
      )}
    </Section>
  )
}
