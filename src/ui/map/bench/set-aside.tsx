'use client'
import { Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import type { SetAside } from '@/core/classify/spec'
import type { Classes } from '@/core/kinds/kind'
import type { Layer } from '@/core/map/spec'
import { ColourField } from '../../kit/colour-field'
import { Button, Check, IconButton, Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { changeClassing } from '../edit-classing'

/** Values taken out of the classes into classes of their own, each with its colour and label. */
export function SetAsideList({
  layer,
  setAside,
  classes: { values, result },
}: {
  layer: Layer
  setAside: SetAside[]
  classes: Classes
}) {
  const zeros = values.filter((value) => value === 0).length
  const change = (id: string, part: Partial<SetAside>, merge?: string) =>
    changeClassing(
      layer,
      'Change what is set aside',
      (s) => {
        const value = s.setAside.find((apart) => apart.id === id)
        if (value) Object.assign(value, part)
      },
      merge && `${id} ${merge}`,
    )
  const add = (part: Pick<SetAside, 'from' | 'to' | 'label'>) =>
    changeClassing(
      layer,
      `Set ${part.label} aside`,
      (s) => void s.setAside.push({ id: nanoid(6), colour: '#ffffff', hatched: false, ...part }),
    )
  return (
    <div className="flex w-80 flex-col gap-2">
      {setAside.map((apart, i) => (
        <div key={apart.id} className="flex flex-col gap-1 border-b border-line pb-2">
          <div className="flex items-center justify-between">
            <span className="text-xs text-muted">
              {result.aside[i] ?? 0} {result.aside[i] === 1 ? 'value' : 'values'}
            </span>
            <IconButton
              label={`Put ${apart.label} back into the classes`}
              className="!size-6"
              onClick={() =>
                changeClassing(
                  layer,
                  `Put ${apart.label} back`,
                  (s) => void (s.setAside = s.setAside.filter(({ id }) => id !== apart.id)),
                )
              }
            >
              <Trash2 size={13} />
            </IconButton>
          </div>
          <Row label="From, to">
            <NumberField
              label={`From, of ${apart.label}`}
              value={apart.from}
              decimals={6}
              onChange={(from) => change(apart.id, { from, to: Math.max(from, apart.to) })}
            />
            <NumberField
              label={`To, of ${apart.label}`}
              value={apart.to}
              decimals={6}
              onChange={(to) => change(apart.id, { to, from: Math.min(to, apart.from) })}
            />
          </Row>
          <Row label="Colour">
            <ColourField
              label={`Colour of ${apart.label}`}
              value={apart.colour}
              onChange={(colour) => change(apart.id, { colour }, 'colour')}
            />
            <Check
              label="Hatch"
              checked={apart.hatched}
              onChange={(hatched) => change(apart.id, { hatched })}
            />
          </Row>
          <Row label="Called">
            <TextField
              label={`Label of ${apart.label}`}
              value={apart.label}
              onChange={(label) => change(apart.id, { label })}
            />
          </Row>
        </div>
      ))}
      <div className="flex gap-1.5">
        {zeros > 0 && !setAside.some(({ from, to }) => from <= 0 && to >= 0) && (
          <Button onClick={() => add({ from: 0, to: 0, label: 'none' })}>
            The {zeros} {zeros === 1 ? 'zero' : 'zeros'}
          </Button>
        )}
        <Button
          look="quiet"
          onClick={() =>
            add({
              from: result.breaks[result.breaks.length - 1],
              to: result.breaks[result.breaks.length - 1],
              label: 'apart',
            })
          }
        >
          A value or range
        </Button>
      </div>
      {!setAside.length && (
        <p className="text-xs text-muted">
          What is set aside does not move the breaks; it has its own colour and its own line in the legend.
          Missing values always have.
        </p>
      )}
    </div>
  )
}
