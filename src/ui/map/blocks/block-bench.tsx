'use client'
import {
  ArrowLeftRight,
  ChevronDown,
  ChevronUp,
  Eraser,
  Lock,
  MousePointer2,
  Move,
  Paintbrush,
  RotateCw,
  type LucideIcon,
} from 'lucide-react'
import { proxy } from 'comlink'
import { useMemo, useState } from 'react'
import { blockSums, fillings, roundValue } from '@/core/cartogram/blocks/allot'
import { blockSide } from '@/core/cartogram/block-grid'
import { formatNumber } from '@/core/classify/labels'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import type { Layer, MapSpec } from '@/core/map/spec'
import { ask } from '@/workers/client'
import { Button, IconButton, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { usePrepared } from '../../shell/contents'
import { folioNow, useDocument } from '../../shell/folio-store'
import { editingOf, type BenchProps } from '../kinds/kind-ui'
import { mismatchesOf, type Mismatch } from './mismatches'
import { pagesOf, type BlockPage } from './pages'
import { useBlocks } from './there'
import { blockTools, useBlockTools, type BlockTool } from './tools'

/** What a block is worth, how many the page holds, and the tools that place them by hand. */
export function BlockBench({ map, layer, prepared, plan: made, folded, onFold, choice }: BenchProps) {
  const { s } = editingOf('blocks', layer)
  const plan = made as BlocksPlan
  const { label } = prepared.fieldMeta(s.size)
  const there = useBlocks(map, layer, plan)
  const wrong = useMemo(() => (there ? mismatchesOf(plan, there.cells, s.shape) : []), [there, plan, s.shape])
  const placed = there ? there.cells.reduce((sum, own) => sum + own.length / 2, 0) : null
  return (
    <section
      aria-label="Block bench"
      className={`flex shrink-0 flex-col border-t border-line bg-base-100 contain-layout ${folded ? 'h-9' : 'h-[236px]'}`}
    >
      <div className="flex h-9 shrink-0 items-center gap-3 px-4">
        {choice}
        <h2 className="min-w-0 truncate font-semibold">{label} in blocks</h2>
        <span className="mr-auto shrink-0 text-xs whitespace-nowrap text-muted">
          {formatNumber(plan.bodies.filter(({ blocks }) => blocks > 0).length, 0)} areas and groups
        </span>
        <IconButton
          label={folded ? 'Unfold the block bench' : 'Fold the block bench'}
          aria-expanded={!folded}
          onClick={onFold}
        >
          {folded ? <ChevronUp size={16} /> : <ChevronDown size={16} />}
        </IconButton>
      </div>
      {!folded && (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)_300px] divide-x divide-line border-t border-line">
          <Sums map={map} layer={layer} plan={plan} unit={prepared.fieldMeta(s.size).unit} />
          <ByHand map={map} layer={layer} plan={plan} wrong={wrong} placed={placed} />
        </div>
      )}
    </section>
  )
}

/** The page on the left, the worth of a block in the middle: whatever is changed, the rest follows. */
function Sums({ map, layer, plan, unit }: { map: MapSpec; layer: Layer; plan: BlocksPlan; unit: string }) {
  const { s, change } = editingOf('blocks', layer)
  const { sheets, maps } = useDocument()
  const all = usePrepared()
  const { page: thought, set } = useBlockTools()
  const pages = useMemo(() => pagesOf(map, { sheets, maps }, all, thought), [map, sheets, maps, all, thought])
  const [chosen, setChosen] = useState<string | null>(null)
  const page = pages.find(({ id }) => id === chosen) ?? pages[0]
  const sideMm = s.sideM * page.mmPerMetre
  const sums = blockSums(page, { shape: s.shape, sideMm, share: s.filled, total: plan.total, value: s.value })
  const { onPage, exact, rounded, blocks, filled } = sums
  /** Another size of the blocks, with the value that fills as much of the page as is wished. */
  const resize = (mm: number) =>
    change(
      'Size of the blocks',
      (d) => {
        d.sideM = mm / page.mmPerMetre
        const next = blockSums(page, { ...s, sideMm: mm, share: s.filled, total: plan.total })
        if (Number.isFinite(next.rounded)) d.value = next.rounded
      },
      'size',
    )
  const fill = (share: number) =>
    change(
      'Share of the page to be filled',
      (d) => {
        d.filled = share
        const next = roundValue(plan.total / Math.max(1, share * onPage))
        if (Number.isFinite(next)) d.value = next
      },
      'filled',
    )
  const number = (value: number) => formatNumber(value, value < 10 ? 2 : Number(value < 100))
  return (
    <>
      <dl aria-label="The page" className="flex min-w-0 flex-col gap-0.5 overflow-y-auto px-4 py-1.5">
        <Line label="Page">
          <Select
            label="Page"
            value={page.id}
            options={pages.map(({ id, label }) => ({ value: id, label }))}
            onChange={setChosen}
          />
        </Line>
        <PageSize page={page} onChange={(next) => set({ page: next })} />
        <Line label="One block">
          <NumberField
            label="Side of a block"
            value={sideMm}
            unit="mm"
            min={0.2}
            max={100}
            step={0.1}
            onChange={resize}
          />
          <span className="text-xs text-muted">across, {formatNumber((sideMm * 72) / 25.4, 1)} pt</span>
        </Line>
        <Line label="The page holds">
          <NumberField
            label="Blocks on the page"
            value={onPage}
            min={4}
            max={1_000_000}
            step={50}
            decimals={0}
            onChange={(n) => resize(blockSide(s.shape, (page.width * page.height) / n))}
          />
          <span className="text-xs text-muted">blocks</span>
        </Line>
        <Line label="To be filled">
          <NumberField
            label="Share of the page to be filled"
            value={100 * s.filled}
            unit="%"
            min={2}
            max={100}
            step={1}
            decimals={1}
            onChange={(percent) => fill(percent / 100)}
          />
          {(Object.entries(fillings) as [keyof typeof fillings, number][]).map(([name, share]) => (
            <Button
              key={name}
              className={`!h-6 !px-1.5 !text-xs ${Math.abs(s.filled - share) < 1e-9 ? '!border-primary text-primary' : ''}`}
              title={`${fillingWords[name]}: ${formatNumber(100 * share, 0)} % of the page`}
              onClick={() => fill(share)}
            >
              {fillingWords[name]}
            </Button>
          ))}
        </Line>
      </dl>
      <dl
        aria-label="What a block is worth"
        className="flex min-w-0 flex-col gap-0.5 overflow-y-auto px-4 py-1.5"
      >
        <Line label="Total">
          <output aria-label="Total">{`${number(plan.total)} ${unit}`.trim()}</output>
        </Line>
        <Line label="Exactly">
          <output aria-label="Exact value of a block">{number(exact)}</output>
          <span className="text-xs text-muted">a block would fill it just so</span>
        </Line>
        <Line label="Rounded">
          <output aria-label="Rounded value of a block">{number(rounded)}</output>
          <span className="text-xs text-muted">
            fills {formatNumber((100 * Math.round(plan.total / rounded)) / onPage, 1)} %
          </span>
          {rounded !== s.value && Number.isFinite(rounded) && (
            <Button
              className="!h-6 !text-xs"
              onClick={() => change('Rounded value of a block', (d) => void (d.value = rounded))}
            >
              Take it
            </Button>
          )}
        </Line>
        <Line label="One block is">
          <NumberField
            label="Value of a block"
            value={s.value}
            unit={unit.length > 6 ? '' : unit}
            min={plan.total / 30_000}
            max={Math.max(1e-9, plan.total)}
            step={Math.max(1e-6, s.value / 20)}
            decimals={6}
            onChange={(value) => change('Value of a block', (d) => void (d.value = value), 'value')}
          />
        </Line>
        <Line label="That makes">
          <output aria-label="Blocks in all" className="font-semibold">
            {formatNumber(blocks, 0)} blocks
          </output>
          <span className="text-xs text-muted">
            {number(plan.total)} ∕ {number(s.value)}
          </span>
        </Line>
        <Line label="They fill">
          <output aria-label="Share of the page that is filled">{formatNumber(100 * filled, 1)} %</output>
          <span className="text-xs text-muted">of the page</span>
        </Line>
      </dl>
    </>
  )
}

const fillingWords: Record<keyof typeof fillings, string> = {
  loose: 'loose',
  normal: 'a third',
  tight: 'tight',
}

function PageSize({
  page,
  onChange,
}: {
  page: BlockPage
  onChange: (size: { width: number; height: number }) => void
}) {
  const { width, height } = page
  if (page.id !== 'thought')
    return (
      <Line label="Size">
        <output>
          {formatNumber(width, 1)} × {formatNumber(height, 1)} mm
        </output>
      </Line>
    )
  return (
    <Line label="Size">
      <NumberField
        label="Width of the page"
        value={width}
        unit="mm"
        min={20}
        max={3000}
        onChange={(next) => onChange({ width: next, height })}
      />
      <NumberField
        label="Height of the page"
        value={height}
        unit="mm"
        min={20}
        max={3000}
        onChange={(next) => onChange({ width, height: next })}
      />
    </Line>
  )
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="grid min-h-7 grid-cols-[84px_minmax(0,1fr)] items-center gap-2">
      <dt className="text-xs text-muted">{label}</dt>
      <dd className="flex min-w-0 items-center gap-1.5 whitespace-nowrap">{children}</dd>
    </div>
  )
}

const toolWords: Record<BlockTool, { label: string; hint: string; Icon: LucideIcon }> = {
  look: { label: 'Look', hint: 'Drag the map, point at areas.', Icon: MousePointer2 },
  paint: { label: 'Paint blocks', hint: 'Set down on an area and draw its blocks.', Icon: Paintbrush },
  erase: { label: 'Erase blocks', hint: 'Draw over blocks to make water of them.', Icon: Eraser },
  move: { label: 'Move an area', hint: 'Drag an area as a whole.', Icon: Move },
  turn: { label: 'Turn an area', hint: 'Click an area to turn it about its middle.', Icon: RotateCw },
  swap: { label: 'Swap two areas', hint: 'Click one, then the other.', Icon: ArrowLeftRight },
  keep: { label: 'Keep an area', hint: 'What is kept stays when others settle.', Icon: Lock },
}

/** Tools for placing blocks, and what does not add up. */
function ByHand({
  map,
  layer,
  plan,
  wrong,
  placed,
}: {
  map: MapSpec
  layer: Layer
  plan: BlocksPlan
  wrong: Mismatch[]
  placed: number | null
}) {
  const { s, change } = editingOf('blocks', layer)
  const { tool, brush, take, set } = useBlockTools()
  return (
    <div className="flex min-h-0 min-w-0 flex-col gap-1.5 px-3 py-2" aria-label="Blocks by hand" role="group">
      <div className="flex items-center gap-0.5" role="toolbar" aria-label="Tools for blocks">
        {blockTools.map((id) => {
          const { label, Icon } = toolWords[id]
          return (
            <IconButton
              key={id}
              label={label}
              active={tool === id}
              aria-pressed={tool === id}
              onClick={() => take(id)}
            >
              <Icon size={15} />
            </IconButton>
          )
        })}
      </div>
      <p className="text-xs text-muted">
        {tool === 'paint' && brush ? `Painting ${brush}. ` : ''}
        {toolWords[tool].hint}
        {s.kept.length > 0 && tool === 'keep' ? ` ${s.kept.length} kept.` : ''}
      </p>
      <ul aria-label="Areas that do not add up" className="min-h-0 flex-1 overflow-y-auto text-xs">
        {wrong.map(({ body, name, has, wanted, pieces }) => (
          <li key={body}>
            <button
              type="button"
              className={`flex w-full items-center justify-between rounded px-1 py-0.5 text-left hover:bg-base-200 ${brush === name && tool === 'paint' ? 'bg-tint text-primary' : ''}`}
              title={`Paint ${name}`}
              onClick={() => {
                take('paint')
                set({ brush: name })
              }}
            >
              <span className="min-w-0 truncate">{name}</span>
              <span className="shrink-0 pl-2 text-caution">
                {has} of {wanted}
                {pieces > 1 ? `, ${pieces} pieces` : ''}
              </span>
            </button>
          </li>
        ))}
        {!wrong.length && placed !== null && (
          <li className="px-1 text-good">Every area has the blocks that it is worth.</li>
        )}
      </ul>
      <p aria-label="Sum of the blocks" className="border-t border-line pt-1 text-xs">
        {placed === null
          ? 'The blocks find their places…'
          : `${formatNumber(placed, 0)} of ${formatNumber(plan.blocks, 0)} blocks placed`}
      </p>
      <div className="flex gap-1.5">
        <SettleButton map={map} layer={layer} disabled={s.hand === null} />
        <Button
          className="!h-6 flex-1 !text-xs"
          title="All blocks find their places by themselves again, in another way"
          onClick={() =>
            change('Lay out anew', (d) => {
              if (d.hand === null) d.seed = (d.seed + 1) % 1_000_000
              d.hand = null
            })
          }
        >
          {s.hand === null ? 'Another layout' : 'Lay out anew'}
        </Button>
      </div>
    </div>
  )
}

const settingsNow = (layerId: string): unknown =>
  folioNow()
    .maps.flatMap(({ layers }) => layers)
    .find(({ id }) => id === layerId)?.symbology.settings

/** Lets all that is not kept find its places round what was placed by hand. */
function SettleButton({ map, layer, disabled }: { map: MapSpec; layer: Layer; disabled: boolean }) {
  const { change } = editingOf('blocks', layer)
  const [share, setShare] = useState<number | null>(null)
  const settle = async () => {
    setShare(0)
    const hand = await ask(folioNow(), (worker) =>
      worker.settleBlocks(
        layer,
        map.projection,
        proxy((now: number) => setShare(now)),
      ),
    ).catch(() => null)
    setShare(null)
    // What was painted meanwhile is not painted over.
    if (hand && settingsNow(layer.id) === layer.symbology.settings)
      change('Settle the blocks', (d) => void (d.hand = hand))
  }
  if (share !== null)
    return (
      <span className="flex h-6 flex-1 items-center gap-1.5">
        <progress className="progress flex-1" value={share} max={1} aria-label="Blocks settle" />
        <Button
          look="quiet"
          className="!h-6 !px-1.5 !text-xs"
          onClick={() => void ask(folioNow(), (worker) => worker.dropSettling())}
        >
          Stop
        </Button>
      </span>
    )
  return (
    <Button
      className="!h-6 flex-1 !text-xs"
      disabled={disabled}
      title={
        disabled
          ? 'Nothing was placed by hand'
          : 'Gives areas the blocks that they lack, and lets all that is not kept find better places'
      }
      onClick={() => void settle()}
    >
      Settle
    </Button>
  )
}
