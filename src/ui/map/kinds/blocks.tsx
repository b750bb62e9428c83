'use client'
import { X } from 'lucide-react'
import { useState } from 'react'
import { blockShapes, type BlockShape } from '@/core/cartogram/block-grid'
import { rowKeys } from '@/core/data/row-names'
import { unordered } from '@/core/colour/schemes'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import type { Prepared } from '@/core/data/prepare'
import { Button, Check, IconButton, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { BlockBench } from '../blocks/block-bench'
import { BlockHands } from '../blocks/block-hands'
import { ShadePicker, ShadeSettings } from './choropleth'
import { FieldPicker, numberOptions } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { useShapesSaid } from './shapes-said'

const shapeLabels: Record<BlockShape, string> = { hexagons: 'hexagons', squares: 'squares' }
const shapeOptions = blockShapes.map((value) => ({ value, label: shapeLabels[value] }))

/** Another shape has another grid, on which blocks find their places anew. */
const useShape = (layer: SettingsProps['layer']) => {
  const { s, change } = editingOf('blocks', layer)
  return {
    shape: s.shape,
    setShape: (shape: BlockShape) =>
      change(`Blocks as ${shapeLabels[shape]}`, (d) => {
        if (shape !== d.shape) d.hand = null
        d.shape = shape
      }),
  }
}

function Picker(props: PickerProps) {
  const { control, layer, prepared, close } = props
  const { s, change } = editingOf('blocks', layer)
  const { shape, setShape } = useShape(layer)
  if (control === 'shape')
    return (
      <ChoiceList
        value={shape}
        options={shapeOptions}
        onPick={(next) => {
          setShape(next)
          close()
        }}
      />
    )
  if (control === 'size')
    return (
      <FieldPicker
        value={s.size}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Blocks by ${label}`, (d) => void (d.size = field))
          close()
        }}
      />
    )
  if (control === 'threshold')
    return (
      <div className="w-56">
        <Row label="One block is">
          <NumberField
            label="Value of a block"
            value={s.value}
            min={1e-6}
            step={Math.max(1e-6, s.value / 20)}
            decimals={6}
            onChange={(value) => change('Value of a block', (d) => void (d.value = value), 'value')}
          />
        </Row>
      </div>
    )
  if (control === 'colour-by') return <PartChoice {...props} />
  return <ShadePicker {...props} />
}

/** Fields among which blocks are shared out. */
function PartChoice({ layer, prepared }: Pick<SettingsProps, 'layer' | 'prepared'>) {
  const { s, change } = editingOf('blocks', layer)
  const amounts = prepared.dataset.fields.filter(
    ({ key, column }) => column.kind === 'number' && prepared.fieldMeta(key).role === 'total',
  )
  const toggle = (key: string, on: boolean) =>
    change(`${on ? 'Share out by' : 'Without'} ${prepared.fieldMeta(key).label}`, (d) => {
      d.parts = d.parts.filter(({ field }) => field !== key)
      const colour = unordered.orchard.colours.find((one) => !d.parts.some((part) => part.colour === one))
      if (on && d.parts.length < 12) d.parts.push({ field: key, colour: colour ?? '#888888' })
    })
  return (
    <ul className="max-h-72 w-64 overflow-y-auto" aria-label="Fields that share out the blocks">
      {amounts.map(({ key }) => (
        <li key={key}>
          <Check
            label={prepared.fieldMeta(key).label}
            checked={s.parts.some(({ field }) => field === key)}
            onChange={(on) => toggle(key, on)}
          />
        </li>
      ))}
    </ul>
  )
}

function Settings(props: SettingsProps) {
  const { layer, prepared } = props
  const { s, change } = editingOf('blocks', layer)
  const { shape, setShape } = useShape(layer)
  const { remark, figures } = useShapesSaid(layer)
  return (
    <>
      <Section title="Blocks">
        <Row label="Each block">
          <Select label="Shape of blocks" value={shape} options={shapeOptions} onChange={setShape} />
        </Row>
        {s.hand !== null && (
          <p className="px-1 text-xs text-muted">
            Blocks were placed by hand. Another shape lays them out anew; undo brings them back.
          </p>
        )}
        <Row label="As many as">
          <Select
            label="Field of the blocks"
            value={s.size}
            options={numberOptions(prepared)}
            onChange={(field) =>
              change(`Blocks by ${prepared.fieldMeta(field).label}`, (d) => void (d.size = field))
            }
          />
        </Row>
        <Row label="Between them">
          <ColourField
            label="Colour of lines between blocks"
            value={s.lines.colour}
            onChange={(colour) =>
              change('Colour of lines between blocks', (d) => void (d.lines.colour = colour), 'lines colour')
            }
          />
          <NumberField
            label="Width of lines between blocks"
            value={s.lines.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.05}
            onChange={(pt) =>
              change('Lines between blocks', (d) => void (d.lines.widthPt = pt), 'lines width')
            }
          />
        </Row>
        <ul aria-label="Figures of the cartogram" className="px-1 text-xs text-muted">
          {figures.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        {remark && (
          <p className="px-1 text-xs text-caution" role="status">
            {remark}
          </p>
        )}
      </Section>
      <SmallAreas {...props} />
      {s.parts.length > 0 ? <PartColours {...props} /> : <ShadeSettings {...props} />}
      <Section title="Shared out">
        <p className="px-1 text-xs text-muted">
          The blocks of each area in colours of several fields, in proportion to their amounts, in place of
          classes.
        </p>
        <PartChoice {...props} />
      </Section>
    </>
  )
}

function PartColours({ layer, prepared }: SettingsProps) {
  const { s, change } = editingOf('blocks', layer)
  return (
    <Section title="Colours">
      {s.parts.map(({ field, colour }, i) => (
        <Row key={field} label={prepared.fieldMeta(field).label}>
          <ColourField
            label={`Colour of ${prepared.fieldMeta(field).label}`}
            value={colour}
            onChange={(next) =>
              change(
                `Colour of ${prepared.fieldMeta(field).label}`,
                (d) => void (d.parts[i].colour = next),
                `part ${i}`,
              )
            }
          />
        </Row>
      ))}
    </Section>
  )
}

/** What is put together because it is worth less than half a block, or because somebody wants it so. */
function SmallAreas({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('blocks', layer)
  const plan = made as BlocksPlan | null
  const texts = prepared.dataset.fields
    .filter(({ column }) => column.kind === 'text')
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const keys = rowKeys(prepared)
  const groups = plan?.bodies.filter(({ how }) => how !== 'single') ?? []
  return (
    <Section title="Small areas">
      <Check
        label="Put together what is under half a block"
        checked={s.byRule}
        onChange={(on) =>
          change(on ? 'Put small areas together' : 'Leave small areas alone', (d) => void (d.byRule = on))
        }
      />
      {s.byRule && (
        <Row label="Within">
          <Select
            label="Regions within which areas are put together"
            value={s.region ?? ''}
            options={[{ value: '', label: 'those that touch' }, ...texts]}
            onChange={(region) => change('Regions of small areas', (d) => void (d.region = region || null))}
          />
        </Row>
      )}
      <ul aria-label="Groups of areas" className="flex flex-col gap-1">
        {groups.map((group) => (
          <Group key={group.name} group={group} {...{ layer, prepared, keys }} />
        ))}
      </ul>
      <NewGroup {...{ layer, keys }} />
      {plan && plan.without > 0 && (
        <p className="px-1 text-xs text-caution" role="status">
          {plan.without === 1 ? '1 area' : `${plan.without} areas`} without a value above zero left out.
        </p>
      )}
      {plan && plan.unknown.length > 0 && (
        <p className="px-1 text-xs text-caution" role="status">
          Not there any more: {plan.unknown.slice(0, 5).join(', ')}.
        </p>
      )}
    </Section>
  )
}

/** Names of groups are no longer than this. */
const shortName = (name: string): string => name.trim().slice(0, 200)

function Group({
  group,
  layer,
  keys,
}: {
  group: BlocksPlan['bodies'][number]
  layer: SettingsProps['layer']
  prepared: Prepared
  keys: string[]
}) {
  const { s, change } = editingOf('blocks', layer)
  const members = group.rows.map((row) => keys[row])
  /** What the rule made becomes a group by hand once it is changed. */
  const edit = (name: string, recipe: (own: { name: string; members: string[] }) => void) =>
    change(name, (d) => {
      let own = d.groups.find((other) => other.name === group.name)
      if (!own) {
        d.groups.push({ name: shortName(group.name), members })
        own = d.groups[d.groups.length - 1]
      }
      recipe(own)
    })
  return (
    <li className="rounded border border-line p-1.5 text-xs">
      <div className="flex items-center gap-1">
        <TextField
          label={`Name of the group ${group.name}`}
          value={group.name}
          onChange={(name) =>
            name.trim() && edit(`Name the group ${name}`, (own) => void (own.name = shortName(name)))
          }
        />
        <span className="shrink-0 text-muted">
          {group.blocks} {group.blocks === 1 ? 'block' : 'blocks'}
        </span>
        {group.how === 'hand' && (
          <IconButton
            label={`Take the group ${group.name} apart`}
            className="!size-6"
            onClick={() =>
              change(`Take ${group.name} apart`, (d) => {
                d.groups = d.groups.filter(({ name }) => name !== group.name)
              })
            }
          >
            <X size={13} />
          </IconButton>
        )}
      </div>
      <p className="mt-1 flex flex-wrap gap-1">
        {members.slice(0, 30).map((member) => (
          <button
            key={member}
            type="button"
            title={`Take ${member} out of ${group.name}`}
            className="rounded bg-base-200 px-1 hover:line-through"
            onClick={() =>
              change(`Take ${member} out`, (d) => {
                for (const own of d.groups)
                  if (own.name === group.name) own.members = own.members.filter((key) => key !== member)
                d.groups = d.groups.filter(({ members: left }) => left.length > 0)
                if (!s.alone.includes(member)) d.alone.push(member)
              })
            }
          >
            {member}
          </button>
        ))}
        {members.length > 30 && <span className="text-muted">and {members.length - 30} more</span>}
      </p>
    </li>
  )
}

/** Two areas put together; more are added to what they become. */
function NewGroup({ layer, keys }: { layer: SettingsProps['layer']; keys: string[] }) {
  const { change } = editingOf('blocks', layer)
  const [first, setFirst] = useState('')
  const [second, setSecond] = useState('')
  const options = [
    { value: '', label: 'an area…' },
    ...[...keys].sort().map((key) => ({ value: key, label: key })),
  ]
  const ready = first !== '' && second !== '' && first !== second
  return (
    <div className="flex items-center gap-1">
      <Select label="Put together this area" value={first} options={options} onChange={setFirst} />
      <Select label="with this one" value={second} options={options} onChange={setSecond} />
      <Button
        className="!h-6 !px-1.5 !text-xs"
        disabled={!ready}
        onClick={() => {
          change(`Put ${first} and ${second} together`, (d) => {
            const into = d.groups.find(({ members }) => members.includes(first))
            for (const own of d.groups)
              if (own !== into) own.members = own.members.filter((key) => key !== second)
            if (into) {
              if (!into.members.includes(second)) into.members.push(second)
            } else d.groups.push({ name: shortName(`${first} and ${second}`), members: [first, second] })
            d.groups = d.groups.filter(({ members }) => members.length > 0)
          })
          setSecond('')
        }}
      >
        Join
      </Button>
    </div>
  )
}

export const blocksUi: KindUi = {
  Picker,
  Settings,
  bench: { label: 'Blocks', Bench: BlockBench },
  Hands: BlockHands,
}
