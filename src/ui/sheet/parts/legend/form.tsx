'use client'
import { AlertTriangle, Eye, EyeOff, RotateCcw, Undo2 } from 'lucide-react'
import type { LegendLine } from '@/core/legend/entries'
import { legendForms } from '@/core/legend/look'
import { partTypeOf } from '@/core/sheet/registry'
import { mapOfPanel, panelPart, panelsOf } from '@/core/sheet/panel-view'
import type { Part, Sheet } from '@/core/sheet/spec'
import { Check, IconButton, Row, Section, Segments, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { Ticks } from '../../../kit/ticks'
import { TextField } from '../../../kit/text-field'
import { useSheetDrawn } from '../../../shell/contents'
import { folioNow, useDocument } from '../../../shell/folio-store'
import { ask } from '@/workers/client'
import { useEffect, useState } from 'react'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { TypeStyleRows } from '../type-style-rows'

type LegendPart = Extract<Part, { type: 'legend' }>

/** The lines that the legend could show, as the worker last laid them out; null until they are known. */
function useLegendEntries(sheet: Sheet, partId: string): LegendLine[] | null {
  const drawn = useSheetDrawn(sheet)
  const [entries, setEntries] = useState<LegendLine[] | null>(null)
  useEffect(() => {
    let here = true
    ask(folioNow(), (worker) => worker.legendEntries(sheet.id, partId)).then(
      (lines) => here && setEntries(lines),
      () => undefined,
    )
    return () => void (here = false)
  }, [drawn, sheet.id, partId])
  return entries
}

/** Words, boxes and lettering of a legend. It follows the map; words that were changed here stay. */
export function LegendForm({ sheet, part }: FormProps<'legend'>) {
  const s = part.settings
  const entries = useLegendEntries(sheet, part.id)
  const panel = s.figures.length && s.panelId === null ? null : panelPart(sheet, s.panelId)
  const followed = [
    panel?.name ?? [],
    sheet.parts.filter(({ id }) => s.figures.includes(id)).map(({ name }) => name),
  ]
    .flat()
    .join(', ')
  const atLimits = (line: LegendLine) => line.role === 'limit' || line.item?.key.startsWith('class-')
  const limitsShown = s.form === 'histogram' || s.labelsAt === 'limits'
  const lines = (entries ?? []).filter(
    (line, _, all) =>
      !atLimits(line) || !all.some(({ role }) => role === 'limit') || (line.role === 'limit') === limitsShown,
  )
  const stale = (line: LegendLine) =>
    line.text !== line.proposed &&
    s.wordsFor[line.key] !== undefined &&
    s.wordsFor[line.key] !== line.proposed
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section
        title="Entries"
        aside={<span className="text-xs text-muted">follow {followed || 'no panel'}</span>}
      >
        {entries && !lines.length && (
          <p className="text-xs text-muted">
            No layer of the map enters the legend. Switch one on in the layer stack.
          </p>
        )}
        {lines.map((line) => {
          const hidden = s.hiddenLines.includes(line.key)
          return (
            <div
              key={line.key}
              className={`flex items-center gap-1 ${line.role === 'heading' ? '' : 'pl-3'} ${hidden ? 'opacity-50' : ''}`}
            >
              {stale(line) && (
                <span
                  title={`Written for “${s.wordsFor[line.key]}”, which is now “${line.proposed}”: it may no longer fit.`}
                  className="shrink-0 text-caution"
                >
                  <AlertTriangle size={13} aria-label="may no longer fit" />
                </span>
              )}
              <TextField
                label={`Wording of ${line.proposed}`}
                value={line.text}
                onChange={(text) => changeWords(change, line.key, line.proposed, text)}
              />
              {line.text !== line.proposed && (
                <IconButton
                  label={`Back to “${line.proposed}”`}
                  className="!size-6"
                  onClick={() => changeWords(change, line.key, line.proposed, line.proposed)}
                >
                  <RotateCcw size={13} />
                </IconButton>
              )}
              <IconButton
                label={hidden ? `Show ${line.text}` : `Hide ${line.text}`}
                className="!size-6"
                onClick={() =>
                  change(
                    hidden ? 'Show legend line' : 'Hide legend line',
                    (d) =>
                      void (d.hiddenLines = hidden
                        ? d.hiddenLines.filter((key) => key !== line.key)
                        : [...d.hiddenLines, line.key]),
                  )
                }
              >
                {hidden ? <EyeOff size={14} /> : <Eye size={14} />}
              </IconButton>
              {s.moved[line.key] && (
                <IconButton
                  label={`Put ${line.text} back in its place`}
                  className="!size-6"
                  onClick={() => change('Legend line back in place', (d) => void delete d.moved[line.key])}
                >
                  <Undo2 size={13} />
                </IconButton>
              )}
            </div>
          )
        })}
      </Section>
      <ExplainedForm sheet={sheet} part={part} />
      <Section title="Words around">
        <Row label="Title">
          <TextField
            label="Title of the legend"
            placeholder="nothing"
            allowEmpty
            value={s.title}
            onChange={(title) => change('Legend title', (d) => void (d.title = title.trim()))}
          />
        </Row>
        <Row label="Note">
          <TextField
            label="Note below the legend"
            placeholder="nothing"
            allowEmpty
            value={s.note}
            onChange={(note) => change('Legend note', (d) => void (d.note = note.trim()))}
          />
        </Row>
      </Section>
      <Section title="Boxes">
        <Row label="Classes">
          <div className="flex-1">
            <Segments
              label="How classes are set"
              value={s.form}
              options={legendForms.map((value) => ({
                value,
                label: { upright: 'Upright', lying: 'Lying', histogram: 'Bars' }[value],
              }))}
              onChange={(form) => change('Form of the legend', (d) => void (d.form = form))}
            />
          </div>
        </Row>
        {s.form !== 'histogram' && (
          <Row label="Words at">
            <div className="flex-1">
              <Segments
                label="Words at"
                value={s.labelsAt}
                options={[
                  { value: 'classes', label: 'Classes' },
                  { value: 'limits', label: 'Limits' },
                ]}
                onChange={(at) => change('Words of the legend', (d) => void (d.labelsAt = at))}
              />
            </div>
          </Row>
        )}
        <Row label="Columns">
          <NumberField
            label="Columns of entries"
            value={s.columns}
            min={1}
            max={6}
            step={1}
            decimals={0}
            onChange={(n) => change('Columns of the legend', (d) => void (d.columns = Math.round(n)))}
          />
        </Row>
        <Row label="Order">
          <div className="flex-1">
            <Segments
              label="Order"
              value={s.lowFirst ? 'low' : 'high'}
              options={[
                { value: 'low', label: 'Low first' },
                { value: 'high', label: 'High first' },
              ]}
              onChange={(next) => change('Order of the legend', (d) => void (d.lowFirst = next === 'low'))}
            />
          </div>
        </Row>
        <Row label="Box">
          <NumberField
            label="Box width"
            value={s.swatchWidthMm}
            unit="mm"
            min={1}
            max={60}
            step={0.5}
            onChange={(n) => change('Box width', (d) => void (d.swatchWidthMm = n), 'box width')}
          />
          <NumberField
            label="Box height"
            value={s.swatchHeightMm}
            unit="mm"
            min={1}
            max={60}
            step={0.5}
            onChange={(n) => change('Box height', (d) => void (d.swatchHeightMm = n), 'box height')}
          />
        </Row>
        <Row label="Gap">
          <NumberField
            label="Gap between boxes"
            value={s.gapMm}
            unit="mm"
            min={0}
            max={20}
            step={0.25}
            onChange={(n) => change('Gap', (d) => void (d.gapMm = n), 'gap')}
          />
          <Check
            label="Ground"
            checked={s.background !== null}
            onChange={(on) =>
              change(on ? 'Legend ground' : 'No legend ground', (d) => {
                d.background = on ? '#ffffff' : null
                d.paddingMm = on ? 3 : 0
              })
            }
          />
        </Row>
        {s.background && (
          <Row label="Ground">
            <ColourField
              label="Ground colour"
              value={s.background}
              onChange={(colour) => change('Ground colour', (d) => void (d.background = colour), 'ground')}
            />
            <NumberField
              label="Padding"
              value={s.paddingMm}
              unit="mm"
              min={0}
              max={30}
              step={0.5}
              onChange={(n) => change('Padding', (d) => void (d.paddingMm = n), 'padding')}
            />
          </Row>
        )}
      </Section>
      <Section title="Text">
        {s.title && (
          <TypeStyleRows
            label="Title"
            style={s.titleStyle}
            onChange={(next) =>
              change(
                'Title type',
                (d) => void Object.assign(d.titleStyle, next),
                `title ${Object.keys(next)[0]}`,
              )
            }
          />
        )}
        <TypeStyleRows
          label="Heading"
          style={s.heading}
          onChange={(next) =>
            change(
              'Heading type',
              (d) => void Object.assign(d.heading, next),
              `heading ${Object.keys(next)[0]}`,
            )
          }
        />
        <TypeStyleRows
          label="Labels"
          style={s.label}
          onChange={(next) =>
            change('Label type', (d) => void Object.assign(d.label, next), `label ${Object.keys(next)[0]}`)
          }
        />
      </Section>
    </>
  )
}

/** Which panels are explained, which of their layers, and whether what is out of view is left out. */
function ExplainedForm({ sheet, part }: FormProps<'legend'>) {
  const { maps } = useDocument()
  const { alsoPanels, hiddenLayers, onlySeen, figures } = part.settings
  const change = settingsChanger(sheet.id, part)
  const panels = panelsOf(sheet)
  const withoutPanel = figures.length > 0 && part.settings.panelId === null
  const first = withoutPanel ? null : panelPart(sheet, part.settings.panelId)
  const ownFigures = sheet.parts.filter(({ type }) => partTypeOf(type).explains)
  const others = panels.filter(({ id }) => id !== first?.id)
  const explained = panels.filter(({ id }) => id === first?.id || alsoPanels.includes(id))
  const layers = new Map(
    explained
      .flatMap((one) => mapOfPanel(one, maps)?.layers ?? [])
      .filter(({ inLegend }) => inLegend)
      .map((layer) => [layer.id, layer.name]),
  )
  return (
    <Section title="Explains">
      {(panels.length > 1 || (panels.length > 0 && figures.length > 0)) && (
        <Row label="Panel">
          <Select
            label="Panel it explains"
            value={first?.id ?? ''}
            options={[
              ...(figures.length ? [{ value: '', label: 'none' }] : []),
              ...panels.map((p) => ({ value: p.id, label: p.name })),
            ]}
            onChange={(id) =>
              change('Explain another panel', (d) => {
                d.panelId = id || null
                d.alsoPanels = d.alsoPanels.filter((one) => one !== id)
              })
            }
          />
        </Row>
      )}
      {others.length > 0 && (
        <Ticks
          title="and besides"
          aside={alsoPanels.length ? `${alsoPanels.length} more` : 'no other'}
          items={others.map(({ id, name }) => ({ id, name }))}
          ticked={(id) => alsoPanels.includes(id)}
          onTick={(id, on) =>
            change(on ? 'Explain one panel more' : 'Explain one panel less', (d) => {
              d.alsoPanels = on ? [...d.alsoPanels, id] : d.alsoPanels.filter((one) => one !== id)
            })
          }
        />
      )}
      {ownFigures.length > 0 && (
        <Ticks
          title="Figures"
          aside={figures.length ? `${figures.length} explained` : 'none'}
          items={ownFigures.map(({ id, name }) => ({ id, name }))}
          ticked={(id) => figures.includes(id)}
          onTick={(id, on) =>
            change(on ? 'Explain a figure' : 'Leave out a figure', (d) => {
              // The panel stays, which was the sheet's first without having been named.
              if (on && d.panelId === null) d.panelId = first?.id ?? null
              d.figures = on ? [...d.figures, id] : d.figures.filter((one) => one !== id)
            })
          }
        />
      )}
      {layers.size > 1 && (
        <Ticks
          title="Layers"
          aside={[...layers.keys()].some((id) => hiddenLayers.includes(id)) ? 'some' : 'all'}
          items={[...layers].map(([id, name]) => ({ id, name }))}
          ticked={(id) => !hiddenLayers.includes(id)}
          onTick={(id, on) =>
            change(on ? 'Explain a layer' : 'Leave out a layer', (d) => {
              d.hiddenLayers = on ? d.hiddenLayers.filter((one) => one !== id) : [...d.hiddenLayers, id]
            })
          }
        />
      )}
      <Check
        label="Only what the panel shows"
        checked={onlySeen}
        onChange={(on) => change(on ? 'Only what is seen' : 'All classes', (d) => void (d.onlySeen = on))}
      />
    </Section>
  )
}

/** Words equal to what the map proposes are not kept, so that they go on following it. */
export function changeWords(
  change: (name: string, recipe: (settings: LegendPart['settings']) => void) => void,
  key: string,
  proposed: string,
  text: string,
): void {
  change('Legend wording', (d) => {
    delete d.wordsFor[key]
    if (text === proposed) delete d.words[key]
    else {
      d.words[key] = text
      d.wordsFor[key] = proposed
    }
  })
}
