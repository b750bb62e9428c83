'use client'
import { Pencil, Plus, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import type { Draft } from 'immer'
import { useState } from 'react'
import { coloursFor, safetyOf, type Colouring } from '@/core/colour/colouring'
import type { OwnRamp } from '@/core/colour/ramp'
import { schemeIds, schemes, type SchemeKind } from '@/core/colour/schemes'
import { Button, Check, IconButton, Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { editFolio, useDocument } from '../../shell/folio-store'
import { RampForm } from './ramp-form'

type Props = {
  colouring: Colouring
  /** As many classes are to be told apart. */
  count: number
  onChange: (name: string, recipe: (colouring: Draft<Colouring>) => void, merge?: string) => void
}

const plainly = { reversed: false, trim: [0, 1] as [number, number], ramp: null }

/**
 * The schemes that are published and those of the folio, with what is known of their readers; how much of one
 * is used.
 */
export function SchemePicker({ colouring, count, onChange }: Props) {
  const folio = useDocument()
  const [wanted, setWanted] = useState({ colourBlind: false, grey: false })
  const [making, setMaking] = useState<OwnRamp | null>(null)
  const { reversed, trim } = colouring
  const passes = (colours: string[]): boolean => {
    const safe = safetyOf(colours)
    return (!wanted.colourBlind || safe.colourBlind) && (!wanted.grey || safe.grey)
  }
  const keep = (ramp: OwnRamp) => {
    editFolio(`Keep colours ${ramp.name}`, (draft) => {
      const at = draft.ramps.findIndex(({ id }) => id === ramp.id)
      if (at < 0) draft.ramps.push(ramp)
      else draft.ramps[at] = ramp
    })
    onChange(`Colour ${ramp.name}`, (c) => void (c.ramp = ramp))
    setMaking(null)
  }
  if (making) return <RampForm start={making} count={count} onKeep={keep} onCancel={() => setMaking(null)} />
  const published = (kind: SchemeKind, title: string) => {
    const fitting = schemeIds.filter(
      (id) => schemes[id].kind === kind && passes(coloursFor({ ...plainly, scheme: id }, count)),
    )
    return (
      <>
        <p className="px-2 pt-1 pb-1 text-xs text-muted">{title}</p>
        {!fitting.length && <p className="px-2 text-xs">None of these can with {count} classes.</p>}
        <div className="grid grid-cols-2 gap-x-1">
          {fitting.map((id) => (
            <button
              key={id}
              type="button"
              aria-pressed={!colouring.ramp && id === colouring.scheme}
              onClick={() =>
                onChange(`Colour ${schemes[id].label}`, (c) => Object.assign(c, { scheme: id, ramp: null }))
              }
              className={`flex items-center gap-2 rounded px-2 py-0.5 text-left text-xs hover:bg-base-200 ${!colouring.ramp && id === colouring.scheme ? 'bg-tint font-medium text-primary' : ''}`}
            >
              <Swatches colours={coloursFor({ ...plainly, scheme: id, reversed }, Math.min(9, count))} />
              {schemes[id].label}
            </button>
          ))}
        </div>
      </>
    )
  }
  return (
    <div className="w-[344px]">
      <div className="flex gap-4 border-b border-line px-2 pb-1">
        <Check
          label="For colour-blind readers"
          checked={wanted.colourBlind}
          onChange={(colourBlind) => setWanted({ ...wanted, colourBlind })}
        />
        <Check
          label="Safe in a grey copy"
          checked={wanted.grey}
          onChange={(grey) => setWanted({ ...wanted, grey })}
        />
      </div>
      {published('sequential', 'One direction, low to high')}
      {published('diverging', 'Two directions from a middle')}
      <div className="mt-1 flex items-center justify-between border-t border-line px-2 pt-1">
        <p className="text-xs text-muted">Of this folio</p>
        <Button
          look="quiet"
          className="!h-6 !px-1.5 !text-xs"
          onClick={() =>
            setMaking({ id: nanoid(8), name: 'Own colours', colours: ['#1f6f6b'], mixedIn: 'oklch' })
          }
        >
          <Plus size={13} /> New
        </Button>
      </div>
      <ul>
        {folio.ramps
          .filter((ramp) => passes(coloursFor({ ...plainly, scheme: 'reed', ramp }, count)))
          .map((ramp) => (
            <li key={ramp.id} className="flex items-center">
              <button
                type="button"
                aria-pressed={colouring.ramp?.id === ramp.id}
                onClick={() => onChange(`Colour ${ramp.name}`, (c) => void (c.ramp = ramp))}
                className={`flex min-w-0 flex-1 items-center gap-2 rounded px-2 py-0.5 text-left text-xs hover:bg-base-200 ${colouring.ramp?.id === ramp.id ? 'bg-tint font-medium text-primary' : ''}`}
              >
                <Swatches
                  colours={coloursFor({ ...plainly, scheme: 'reed', ramp, reversed }, Math.min(9, count))}
                />
                <span className="truncate">{ramp.name}</span>
              </button>
              <IconButton label={`Change ${ramp.name}`} className="!size-6" onClick={() => setMaking(ramp)}>
                <Pencil size={13} />
              </IconButton>
              <IconButton
                label={`Remove ${ramp.name}`}
                className="!size-6"
                onClick={() =>
                  editFolio(
                    `Remove colours ${ramp.name}`,
                    (draft) => void (draft.ramps = draft.ramps.filter(({ id }) => id !== ramp.id)),
                  )
                }
              >
                <Trash2 size={13} />
              </IconButton>
            </li>
          ))}
      </ul>
      <div className="mt-1 border-t border-line px-2 pt-1">
        <Check
          label="Reversed"
          checked={reversed}
          onChange={(on) => onChange('Reverse colours', (c) => void (c.reversed = on))}
        />
        <Row label="Leave out">
          <NumberField
            label="Left out at the start of the colours"
            value={trim[0] * 100}
            unit="% first"
            min={0}
            max={45}
            step={5}
            decimals={0}
            onChange={(n) => onChange('Trim colours', (c) => void (c.trim = [n / 100, trim[1]]), 'trim')}
          />
          <NumberField
            label="Left out at the end of the colours"
            value={(1 - trim[1]) * 100}
            unit="% last"
            min={0}
            max={45}
            step={5}
            decimals={0}
            onChange={(n) => onChange('Trim colours', (c) => void (c.trim = [trim[0], 1 - n / 100]), 'trim')}
          />
        </Row>
      </div>
    </div>
  )
}

export function Swatches({ colours }: { colours: string[] }) {
  return (
    <span className="flex h-3.5 w-16 shrink-0 overflow-hidden rounded-sm border border-line" aria-hidden>
      {colours.map((colour, i) => (
        <span key={i} className="flex-1" style={{ background: colour }} />
      ))}
    </span>
  )
}
