'use client'
import { Minus, Plus } from 'lucide-react'
import { useState } from 'react'
import { safetyOf } from '@/core/colour/colouring'
import { colourDifference } from '@/core/colour/difference'
import { rampAt, type OwnRamp } from '@/core/colour/ramp'
import { Button, IconButton, Row, Segments } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { TextField } from '../../kit/text-field'

const nouns: Record<number, string> = {
  1: 'tints and shades of one colour',
  2: 'from the first colour to the second',
  3: 'two directions from the middle colour',
}

/** A ramp of one, two or three chosen colours in equal steps to the eye. */
export function RampForm({
  start,
  count,
  onKeep,
  onCancel,
}: {
  start: OwnRamp
  count: number
  onKeep: (ramp: OwnRamp) => void
  onCancel: () => void
}) {
  const [ramp, setRamp] = useState(start)
  const colours = Array.from({ length: count }, (_, i) => rampAt(ramp, count === 1 ? 0.6 : i / (count - 1)))
  const safe = safetyOf(colours)
  const least = Math.min(...colours.slice(1).map((colour, i) => colourDifference(colours[i], colour)))
  const set = (next: string[]) => setRamp({ ...ramp, colours: next })
  return (
    <div className="w-[330px]">
      <Row label="Name">
        <TextField
          label="Name of the colours"
          value={ramp.name}
          onChange={(name) => name.trim() && setRamp({ ...ramp, name: name.trim() })}
        />
      </Row>
      {ramp.colours.map((colour, i) => (
        <Row
          key={i}
          label={
            ramp.colours.length === 1
              ? 'Colour'
              : ['First', ramp.colours.length === 2 ? 'Last' : 'Middle', 'Last'][i]
          }
        >
          <ColourField
            label={`Colour ${i + 1} of the ramp`}
            value={colour}
            onChange={(next) => set(ramp.colours.map((old, j) => (j === i ? next : old)))}
          />
        </Row>
      ))}
      <div className="flex items-center justify-between">
        <span className="text-xs text-muted">{nouns[ramp.colours.length]}</span>
        <span className="flex">
          <IconButton
            label="One colour fewer"
            disabled={ramp.colours.length === 1}
            onClick={() => set(ramp.colours.slice(0, -1))}
          >
            <Minus size={14} />
          </IconButton>
          <IconButton
            label="One colour more"
            disabled={ramp.colours.length === 3}
            onClick={() =>
              set(
                ramp.colours.length === 1
                  ? ['#f4f1e6', ramp.colours[0]]
                  : [ramp.colours[0], '#f4f2ec', ramp.colours[1]],
              )
            }
          >
            <Plus size={14} />
          </IconButton>
        </span>
      </div>
      <Row label="Mixed in">
        <Segments
          label="Mixed in"
          value={ramp.mixedIn}
          options={[
            { value: 'oklch', label: 'OKLCH' },
            { value: 'cielab', label: 'CIELAB' },
          ]}
          onChange={(mixedIn) => setRamp({ ...ramp, mixedIn })}
        />
      </Row>
      <div
        className="mt-2 flex h-8 overflow-hidden rounded border border-line"
        role="img"
        aria-label={`The ramp in ${count} classes`}
      >
        {colours.map((colour, i) => (
          <span key={i} className="flex-1" style={{ background: colour }} />
        ))}
      </div>
      <p className="mt-1 text-xs text-muted">
        {count} classes, {least.toFixed(0)} apart or more (CIEDE2000).{' '}
        {safe.colourBlind
          ? 'Colour-blind readers can tell them apart'
          : 'Some colour-blind readers will take classes for each other'}
        , {safe.grey ? 'and so can a grey copy.' : 'a grey copy cannot.'}
      </p>
      <div className="mt-2 flex justify-end gap-2">
        <Button look="quiet" onClick={onCancel}>
          Cancel
        </Button>
        <Button look="primary" onClick={() => onKeep(ramp)}>
          Keep in the folio
        </Button>
      </div>
    </div>
  )
}
