'use client'
import type { Draft } from 'immer'
import { nanoid } from 'nanoid'
import type { Prepared } from '@/core/data/prepare'
import { amountPlace, mostForEach, valuesOfField } from '@/core/sheet/parts/amount/for-each'
import type { AmountSettings } from '@/core/sheet/parts/amount/spec'
import { placeOnPage } from '@/core/sheet/place-on-page'
import { panelsOf } from '@/core/sheet/panel-view'
import type { Part, Sheet } from '@/core/sheet/spec'
import { Button, Check, Row, Section, Select } from '../../../kit/controls'
import { NumberField } from '../../../kit/number-field'
import { folioNow, useFolio } from '../../../shell/folio-store'
import { ask } from '@/workers/client'
import { editSheet, settingsChanger } from '../../edit-sheet'
import { useFrameOf } from '../../frames'
import { usePanelViews } from '../../panel-views'

type AmountPart = Extract<Part, { type: 'amount' }>
type Given = { sheet: Sheet; part: AmountPart; prepared: Prepared }

/** Where on the page the places of a panel's map lie. */
function useOnPage(sheet: Sheet) {
  const viewOf = usePanelViews(sheet)
  return (panelId: string | null, place: [number, number]) => placeOnPage(panelId, place, { panel: viewOf })
}

/** Whether an amount lies on the page or stays at a place of a map, and one for each value of a field. */
export function PlaceSection({ sheet, part, prepared }: Given) {
  const { place } = part.settings
  const change = settingsChanger(sheet.id, part)
  const onPage = useOnPage(sheet)
  const frameOf = useFrameOf()
  const panels = panelsOf(sheet)
  const middle = amountPlace(part.settings, prepared)
  const { box } = frameOf(part)
  /** Puts the middle of the figure onto its place. */
  const standAt = async (panelId: string, at: [number, number], name: string) => {
    const now = onPage(panelId, at)
    const [middle] = await ask(folioNow(), (worker) => worker.figureMiddles(sheet.id, [part.settings]))
    if (!now || !middle) return
    editSheet(sheet.id, name, (draft) => {
      const own = draft.parts.find(({ id }) => id === part.id)
      if (own?.type !== 'amount') return
      own.settings.place = { panelId, place: at, asOf: now, line: own.settings.place?.line ?? true }
      Object.assign(own.box, amid(now, middle))
    })
  }
  const letGo = () =>
    editSheet(sheet.id, 'Amount on the page', (draft) => {
      const own = draft.parts.find(({ id }) => id === part.id)
      if (own?.type !== 'amount') return
      // It stays where it is seen.
      Object.assign(own.box, { x: round(box.x), y: round(box.y) })
      own.settings.place = null
    })
  if (!panels.length) return null
  const ids = panels.map(({ id }) => id)
  const panelId = place && (ids.includes(place.panelId ?? '') ? place.panelId : ids[0])
  const isSeen = place ? onPage(panelId, place.place) !== null : true
  return (
    <Section title="Stands">
      <Row label="On">
        <Select
          label="Where the amount stands"
          value={panelId ?? ''}
          options={[
            { value: '', label: 'the page' },
            ...panels.map(({ id, name }) => ({ value: id, label: `a place of ${name}` })),
          ]}
          onChange={(id) => {
            if (!id) return letGo()
            const at = place?.place ?? middle ?? panels.find((one) => one.id === id)?.settings.view.centre
            if (at) void standAt(id, [at[0], at[1]], 'Amount at a place')
          }}
        />
      </Row>
      {place && panelId && (
        <>
          <Row label="Place">
            {([0, 1] as const).map((k) => (
              <NumberField
                key={k}
                label={k ? 'Latitude of the amount' : 'Longitude of the amount'}
                value={place.place[k]}
                unit="°"
                min={k ? -90 : -180}
                max={k ? 90 : 180}
                step={0.1}
                decimals={3}
                onChange={(n) =>
                  change('Place of the amount', (d) => d.place && void (d.place.place[k] = n), `place ${k}`)
                }
              />
            ))}
          </Row>
          <Check
            label="Line to it from beside"
            checked={place.line}
            onChange={(on) => change('Line to the place', (d) => d.place && void (d.place.line = on))}
          />
          <div className="flex flex-wrap gap-1">
            <Button onClick={() => void standAt(panelId, [...place.place], 'Amount onto its place')}>
              Put onto it
            </Button>
            {middle && (
              <Button onClick={() => void standAt(panelId, middle, 'Amount amid its rows')}>
                Put amid its rows
              </Button>
            )}
          </div>
          {!isSeen && (
            <p className="px-1 text-xs text-caution" role="status">
              The panel does not show this place: the amount stays where it lay last.
            </p>
          )}
        </>
      )}
      <ForEach sheet={sheet} part={part} prepared={prepared} />
    </Section>
  )
}

/** Where the box of an amount begins whose figure has its middle at a place of the page. */
const amid = ([x, y]: readonly [number, number], [dx, dy]: [number, number]) => ({
  x: round(x - dx),
  y: round(y - dy),
})

const round = (mm: number): number => Math.round(mm * 1e6) / 1e6

/** Amounts of all values of the field that this one takes its rows by, at their places or beside each other. */
function ForEach({ sheet, part, prepared }: Given) {
  const { of, place } = part.settings
  const onPage = useOnPage(sheet)
  if (!of) return null
  const others = valuesOfField(of.field, prepared).filter((value) => value !== of.value)
  if (!others.length) return null
  const tooMany = others.length > mostForEach
  const { label } = prepared.fieldMeta(part.settings.parts[0].field)
  const make = async () => {
    const settings = others.map((value): AmountSettings => {
      const own = { ...part.settings, of: { ...of, value } }
      const at = place && amountPlace(own, prepared)
      const now = place && at && onPage(place.panelId, at)
      return structuredClone({
        ...own,
        title: own.title === of.value || own.title === label ? value : own.title,
        place: place && at && now ? { ...place, place: at, asOf: now } : null,
      })
    })
    const middles = await ask(folioNow(), (worker) => worker.figureMiddles(sheet.id, settings))
    const made = settings.map((own, i): AmountPart => {
      // Without a place they lie askew beneath each other, to be taken hold of one by one.
      const beside = { x: part.box.x + 4 * (i + 1), y: part.box.y + 4 * (i + 1) }
      const at = own.place && middles[i] ? amid(own.place.asOf, middles[i]) : beside
      return { ...part, id: nanoid(8), name: others[i], settings: own, box: { ...part.box, ...at } }
    })
    editSheet(sheet.id, 'An amount for each', (draft) => void draft.parts.push(...(made as Draft<Part>[])))
    const astray = place ? made.filter(({ settings: own }) => own.place === null) : []
    if (astray.length)
      useFolio
        .getState()
        .tell(
          `${astray.map(({ name }) => name).join(', ')}: not in that panel, so ${astray.length === 1 ? 'it lies' : 'they lie'} on the page.`,
        )
  }
  return (
    <>
      <Button look="quiet" disabled={tooMany} onClick={() => void make()}>
        One for each of the {others.length} others
      </Button>
      {tooMany && <p className="px-1 text-xs text-muted">No more than {mostForEach} are made at once.</p>}
    </>
  )
}
