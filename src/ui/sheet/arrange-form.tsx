'use client'
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalDistributeCenter,
  AlignHorizontalSpaceAround,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalDistributeCenter,
  AlignVerticalSpaceAround,
  type LucideIcon,
} from 'lucide-react'
import { useState } from 'react'
import { mostMm } from '@/core/scene/bounded'
import {
  aligned,
  cellsOf,
  distributed,
  divisionProblem,
  inReadingOrder,
  type Division,
  type Shift,
  type Side,
} from '@/core/sheet/arrange'
import { boxAround, boxAroundAll } from '@/core/sheet/frame'
import { innerBox } from '@/core/sheet/page'
import type { PartBox } from '@/core/sheet/part'
import { partTypeOf } from '@/core/sheet/registry'
import type { Part, Sheet } from '@/core/sheet/spec'
import { Button, IconButton, Row, Section, Select } from '../kit/controls'
import { Fold } from '../kit/fold'
import { NumberField } from '../kit/number-field'
import { addCopies, editSheet, groupParts, ungroupParts } from './edit-sheet'
import { wholeGroups } from '@/core/sheet/pile'
import { unitsWithBoxes, type FrameOf } from './selecting'

type To = 'selection' | 'page' | 'margins' | 'last'

const toWords: { value: To; label: string }[] = [
  { value: 'selection', label: 'all that is chosen' },
  { value: 'last', label: 'the part chosen last' },
  { value: 'margins', label: 'the margins' },
  { value: 'page', label: 'the page' },
]

const aligning: [Side, string, LucideIcon][] = [
  ['left', 'Align left edges', AlignStartVertical],
  ['centre', 'Align middles sideways', AlignCenterVertical],
  ['right', 'Align right edges', AlignEndVertical],
  ['top', 'Align top edges', AlignStartHorizontal],
  ['middle', 'Align middles up and down', AlignCenterHorizontal],
  ['bottom', 'Align bottom edges', AlignEndHorizontal],
]

const distributing: ['x' | 'y', 'gaps' | 'centres', string, LucideIcon][] = [
  ['x', 'gaps', 'Equal gaps sideways', AlignHorizontalSpaceAround],
  ['x', 'centres', 'Middles at equal distances sideways', AlignHorizontalDistributeCenter],
  ['y', 'gaps', 'Equal gaps up and down', AlignVerticalSpaceAround],
  ['y', 'centres', 'Middles at equal distances up and down', AlignVerticalDistributeCenter],
]

type Props = { sheet: Sheet; parts: Part[]; last: Part | null; frameOf: FrameOf }

const exact = (mm: number): number => Math.round(mm * 1e6) / 1e6

/** Ways to put parts in order: aligned, at equal distances, of one size, in cells, grouped, repeated. */
export function ArrangeForm({ sheet, parts, last, frameOf }: Props) {
  const [to, setTo] = useState<To>('selection')
  const free = parts.filter(({ locked }) => !locked)
  const ids = free.map(({ id }) => id)
  const units = unitsWithBoxes(sheet, ids, frameOf)
  const target = (): PartBox | null => {
    if (to === 'page' || (to === 'selection' && units.length < 2))
      return { x: 0, y: 0, width: sheet.page.widthMm, height: sheet.page.heightMm }
    if (to === 'margins') return innerBox(sheet)
    if (to === 'last' && last) return boxAround(frameOf(last))
    return boxAroundAll(units.map(({ box }) => box))
  }
  const shiftAll = (name: string, shifts: Map<string, Shift>) =>
    editSheet(sheet.id, name, (draft) => {
      for (const unit of units) {
        const { dx, dy } = shifts.get(unit.id) ?? { dx: 0, dy: 0 }
        for (const { id } of unit.parts) {
          const part = draft.parts.find((one) => one.id === id)
          if (part) Object.assign(part.box, { x: exact(part.box.x + dx), y: exact(part.box.y + dy) })
        }
      }
    })
  const sameSize = (key: 'width' | 'height') => {
    const size = last?.box[key]
    if (size === undefined) return
    editSheet(sheet.id, key === 'width' ? 'Same width' : 'Same height', (draft) => {
      for (const part of draft.parts)
        if (ids.includes(part.id) && canBeSized(part as Part, key)) part.box[key] = size
    })
  }
  const groups = wholeGroups(
    sheet,
    parts.map(({ id }) => id),
  )
  const many = units.length > 1
  const Frame = parts.length > 1 ? Section : Fold
  return (
    <>
      <Frame title="Arrange">
        <Row label="Against">
          <Select label="Align against" value={to} options={toWords} onChange={setTo} />
        </Row>
        <Row label="Align">
          {aligning.map(([side, label, Icon]) => (
            <IconButton
              key={side}
              label={label}
              className="!size-6"
              disabled={!free.length}
              onClick={() => {
                const box = target()
                if (box) shiftAll(label, aligned(units, side, box))
              }}
            >
              <Icon size={15} />
            </IconButton>
          ))}
        </Row>
        {many && (
          <>
            <Row label="Distances">
              {distributing.map(([axis, by, label, Icon]) => (
                <IconButton
                  key={label}
                  label={label}
                  disabled={units.length < 3}
                  onClick={() => shiftAll(label, distributed(units, axis, by))}
                >
                  <Icon size={15} />
                </IconButton>
              ))}
            </Row>
            <Row label="As the last">
              <Button onClick={() => sameSize('width')}>Width</Button>
              <Button onClick={() => sameSize('height')}>Height</Button>
            </Row>
          </>
        )}
        {(parts.length > 1 || groups.length > 0) && (
          <Row label="Group">
            <Button
              disabled={parts.length < 2}
              onClick={() =>
                groupParts(
                  sheet.id,
                  parts.map(({ id }) => id),
                )
              }
            >
              Together
            </Button>
            <Button disabled={!groups.length} onClick={() => ungroupParts(sheet.id, groups)}>
              Apart
            </Button>
          </Row>
        )}
      </Frame>
      <DivideForm sheet={sheet} parts={free} last={last} frameOf={frameOf} />
      <RepeatForm sheet={sheet} parts={parts} />
    </>
  )
}

const canBeSized = ({ type }: Part, key: 'width' | 'height'): boolean => {
  const { resize } = partTypeOf(type)
  return resize === 'free' || (resize === 'width' && key === 'width')
}

/** Gives the selected parts, in reading order, the cells of a divided space as exact frames. */
function DivideForm({ sheet, parts, last, frameOf }: Props) {
  const [within, setWithin] = useState<'margins' | 'page' | 'last'>('margins')
  const [asked, setAsked] = useState<Partial<Division>>({})
  const division: Division = {
    columns: asked.columns ?? Math.max(1, parts.length),
    rows: asked.rows ?? 1,
    gutterX: asked.gutterX ?? 0,
    gutterY: asked.gutterY ?? asked.gutterX ?? 0,
  }
  const space = (): PartBox => {
    if (within === 'page') return { x: 0, y: 0, width: sheet.page.widthMm, height: sheet.page.heightMm }
    return within === 'last' && last ? last.box : innerBox(sheet)
  }
  const units = inReadingOrder(parts.map((part) => ({ id: part.id, box: boxAround(frameOf(part)) })))
  const chosen = within === 'last' ? units.filter(({ id }) => id !== last?.id) : units
  const cells = division.columns * division.rows
  const problem = divisionProblem(space(), division)
  const divide = () =>
    editSheet(sheet.id, `Divide into ${division.columns} × ${division.rows}`, (draft) => {
      const boxes = cellsOf(space(), division)
      chosen.slice(0, cells).forEach(({ id }, i) => {
        const part = draft.parts.find((one) => one.id === id)
        if (!part) return
        const { x, y, width, height } = boxes[i]
        const from = frameOf(part as Part).box
        part.box.x = exact(part.box.x + x - from.x)
        part.box.y = exact(part.box.y + y - from.y)
        if (canBeSized(part as Part, 'width')) part.box.width = exact(width)
        if (canBeSized(part as Part, 'height')) part.box.height = exact(height)
        part.rotationDeg = 0
      })
    })
  const set = (key: keyof Division) => (n: number) => setAsked((before) => ({ ...before, [key]: n }))
  return (
    <Fold title="Divide" open={parts.length > 1}>
      <Row label="Space">
        <Select
          label="Space to divide"
          value={within}
          options={[
            { value: 'margins', label: 'within the margins' },
            { value: 'page', label: 'the whole page' },
            ...(parts.length > 1 ? [{ value: 'last' as const, label: 'the part chosen last' }] : []),
          ]}
          onChange={setWithin}
        />
      </Row>
      <Row label="Columns, rows">
        <NumberField
          label="Columns"
          value={division.columns}
          min={1}
          max={100}
          decimals={0}
          onChange={set('columns')}
        />
        <NumberField
          label="Rows"
          value={division.rows}
          min={1}
          max={100}
          decimals={0}
          onChange={set('rows')}
        />
      </Row>
      <Row label="Gutter">
        <NumberField
          label="Gutter sideways"
          value={division.gutterX}
          unit="mm"
          min={0}
          max={500}
          onChange={set('gutterX')}
        />
        <NumberField
          label="Gutter up and down"
          value={division.gutterY}
          unit="mm"
          min={0}
          max={500}
          onChange={set('gutterY')}
        />
      </Row>
      {problem && <p className="text-xs text-error">{problem}</p>}
      {!problem && chosen.length > cells && (
        <p className="text-xs text-muted">
          {chosen.length} parts and {cells} {cells === 1 ? 'cell' : 'cells'}: the last {chosen.length - cells}{' '}
          stay.
        </p>
      )}
      <Button disabled={problem !== null || !chosen.length} onClick={divide}>
        Give the parts these frames
      </Button>
    </Fold>
  )
}

/** Copies at equal steps. */
function RepeatForm({ sheet, parts }: { sheet: Sheet; parts: Part[] }) {
  const [copies, setCopies] = useState(2)
  const box = boxAroundAll(parts.map(({ box }) => box))
  const [step, setStep] = useState<[number, number] | null>(null)
  const [dx, dy] = step ?? [Math.round((box?.width ?? 20) + 5), 0]
  const ends = box ? [box.x + copies * dx, box.y + copies * dy] : []
  const tooFar = ends.some((mm) => Math.abs(mm) > mostMm)
  return (
    <Fold title="Repeat at a distance">
      <Row label="Copies">
        <NumberField label="Copies" value={copies} min={1} max={200} decimals={0} onChange={setCopies} />
        <span className="flex-1" />
      </Row>
      <Row label="Step">
        <NumberField label="Step to the right" value={dx} unit="mm" onChange={(n) => setStep([n, dy])} />
        <NumberField label="Step down" value={dy} unit="mm" onChange={(n) => setStep([dx, n])} />
      </Row>
      {tooFar && (
        <p className="text-xs text-error">The last copy would lie more than {mostMm / 1000} m off.</p>
      )}
      <Button
        disabled={tooFar}
        onClick={() =>
          addCopies(sheet.id, parts, { name: `Repeat ${copies} times`, shift: [dx, dy], times: copies })
        }
      >
        Repeat
      </Button>
    </Fold>
  )
}
