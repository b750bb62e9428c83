'use client'
import { useMemo, useState, type PointerEvent } from 'react'
import { addressKey } from '@/core/cartogram/blocks/cells'
import {
  between,
  moved,
  ownersOf,
  painted,
  swapped,
  turned,
  type Address,
} from '@/core/cartogram/blocks/edit'
import { around, blockAt, cornersOf, middleOf, type BlockGrid } from '@/core/cartogram/block-grid'
import type { Cells } from '@/core/cartogram/blocks/make'
import type { BlocksPlan } from '@/core/kinds/blocks/plan'
import { createProjection } from '@/core/projection/projection'
import { editingOf, type HandsProps } from '../kinds/kind-ui'
import { placeAt, planeToPx, type ToPx } from '../viewing'
import { mismatchesOf } from './mismatches'
import { placeBlocks, useBlocks, type Arrived } from './there'
import { useBlockTools, type BlockTool } from './tools'

/** What is under way between setting the pointer down and taking it up. */
type Stroke = { tool: BlockTool; body: number; from: Address; last: Address; blocks: Address[] }

/**
 * Blocks on a map to be painted, erased, moved, turned and changed for each other; what does not add up is marked
 * while a tool is in hand.
 */
export function BlockHands(props: HandsProps) {
  const { tool } = useBlockTools()
  // As long as nobody works on them, nobody asks where they are.
  return tool === 'look' ? null : <WithBlocks {...props} />
}

function WithBlocks(props: HandsProps) {
  const there = useBlocks(props.map, props.layer, props.plan as BlocksPlan)
  return there && <Hands {...props} there={there} />
}

function Hands({ map, layer, view, size, there }: HandsProps & { there: Arrived }) {
  const { s, change } = editingOf('blocks', layer)
  const { tool, brush, first, set } = useBlockTools()
  const { cells, grid, plan } = there
  const [stroke, setStroke] = useState<Stroke | null>(null)
  const [at, setAt] = useState<{ x: number; y: number; body: number } | null>(null)
  const owners = useMemo(() => ownersOf(cells), [cells])
  const toPx = useMemo(() => planeToPx(map, view, size), [map, view, size])
  const plane = useMemo(() => createProjection(map.projection), [map.projection])
  const wrong = useMemo(() => mismatchesOf(plan, cells, grid.shape), [plan, cells, grid.shape])
  const named = (name: string | null): number => plan.bodies.findIndex((body) => body.name === name)
  const nameOf = (body: number): string => plan.bodies[body]?.name ?? ''

  const local = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const blockUnder = (event: PointerEvent): Address | null => {
    const { x, y } = local(event)
    const place = placeAt(map, view, size, { xPx: x, yPx: y })
    return place && blockAt(grid, ...plane.project(...place))
  }
  const ownerOf = (block: Address): number => owners.get(addressKey(...block)) ?? -1
  const commit = (next: Cells, name: string) => placeBlocks(layer, there, next, name)

  const begin = (event: PointerEvent) => {
    const block = blockUnder(event)
    if (event.button !== 0 || !block) return
    event.stopPropagation()
    const owner = ownerOf(block)
    if (tool === 'paint') {
      // What the brush is set down on is painted on; over water it is what was painted last.
      const on = event.altKey || owner < 0 ? named(brush) : owner
      if (on < 0) return
      set({ brush: nameOf(on) })
      event.currentTarget.setPointerCapture(event.pointerId)
      setStroke({ tool, body: on, from: block, last: block, blocks: [block] })
      return
    }
    if (tool === 'erase') {
      event.currentTarget.setPointerCapture(event.pointerId)
      setStroke({ tool, body: -1, from: block, last: block, blocks: [block] })
      return
    }
    const body = owner
    if (body < 0) return
    if (tool === 'move') {
      event.currentTarget.setPointerCapture(event.pointerId)
      setStroke({ tool, body, from: block, last: block, blocks: [] })
    } else if (tool === 'turn') commit(turned(cells, body, grid.shape), `Turn ${nameOf(body)}`)
    else if (tool === 'keep') {
      const name = nameOf(body)
      const kept = s.kept.includes(name)
      change(kept ? `Let ${name} move` : `Keep ${name}`, (d) => {
        d.kept = kept ? d.kept.filter((other) => other !== name) : [...d.kept, name]
      })
    } else if (tool === 'swap') {
      const other = named(first)
      if (other < 0 || other === body) return set({ first: other === body ? null : nameOf(body) })
      commit(swapped(cells, other, body, grid.shape), `Swap ${nameOf(other)} and ${nameOf(body)}`)
      set({ first: null })
    }
  }
  const goOn = (event: PointerEvent) => {
    const block = blockUnder(event)
    if (!block) return
    setAt({ ...local(event), body: stroke && stroke.body >= 0 ? stroke.body : ownerOf(block) })
    if (!stroke || (block[0] === stroke.last[0] && block[1] === stroke.last[1])) return
    setStroke({
      ...stroke,
      last: block,
      blocks: stroke.tool === 'move' ? [] : [...stroke.blocks, ...between(grid.shape, stroke.last, block)],
    })
  }
  const end = () => {
    setStroke(null)
    if (!stroke) return
    const name = nameOf(stroke.body)
    if (stroke.tool === 'paint') commit(painted(cells, stroke.body, stroke.blocks), `Paint ${name}`)
    else if (stroke.tool === 'erase') commit(painted(cells, -1, stroke.blocks), 'Erase blocks')
    else {
      const by: Address = [stroke.last[0] - stroke.from[0], stroke.last[1] - stroke.from[1]]
      if (by[0] || by[1]) commit(moved(cells, stroke.body, by), `Move ${name}`)
    }
  }

  const now = stroke ? afterStroke(cells, stroke) : cells
  const under = at && at.body >= 0 ? plan.bodies[at.body] : null
  return (
    <div
      data-over-map
      role="application"
      aria-label={`Blocks: ${tool}`}
      className={`absolute inset-0 ${tool === 'move' ? 'cursor-move' : 'cursor-crosshair'}`}
      onPointerDown={begin}
      onPointerMove={goOn}
      onPointerUp={end}
      onPointerCancel={() => setStroke(null)}
      onPointerLeave={() => setAt(null)}
    >
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        {stroke && (
          <path d={blocksPath(strokeBlocks(cells, stroke), grid, toPx)} className={strokeLook(stroke.tool)} />
        )}
        {wrong.map(({ body, has, wanted }) => (
          <g key={body}>
            <path d={edgePath(cells[body], grid, toPx)} fill="none" stroke="#9c1f5e" strokeWidth={2.5} />
            {has > 0 && <Count at={toPx(...middleOfBody(cells[body], grid))} words={`${has}/${wanted}`} />}
          </g>
        ))}
        {s.kept.map((name) => {
          const body = named(name)
          return body < 0 ? null : (
            <path
              key={name}
              d={edgePath(cells[body], grid, toPx)}
              fill="#1b3a4b33"
              stroke="#1b3a4b"
              strokeDasharray="3 2"
              strokeWidth={1.5}
            />
          )
        })}
        {named(first) >= 0 && (
          <path
            d={edgePath(cells[named(first)], grid, toPx)}
            fill="#ffffff66"
            stroke="#1b3a4b"
            strokeWidth={2.5}
          />
        )}
      </svg>
      {at && (under || tool === 'erase') && (
        <p
          role="status"
          className="floating pointer-events-none absolute px-2 py-1 text-xs whitespace-nowrap"
          style={{ left: Math.min(at.x + 14, size.width - 170), top: Math.min(at.y + 14, size.height - 32) }}
        >
          {under ? `${under.name}: ${now[at.body].length / 2} of ${under.blocks}` : 'water'}
        </p>
      )}
    </div>
  )
}

/** Blocks as they would be if the stroke ended here. */
function afterStroke(cells: Cells, { tool, body, from, last, blocks }: Stroke): Cells {
  if (tool === 'move') return moved(cells, body, [last[0] - from[0], last[1] - from[1]])
  return painted(cells, tool === 'erase' ? -1 : body, blocks)
}

function strokeBlocks(cells: Cells, stroke: Stroke): Address[] {
  if (stroke.tool !== 'move') return stroke.blocks
  const own = afterStroke(cells, stroke)[stroke.body]
  return Array.from({ length: own.length / 2 }, (_, k): Address => [own[2 * k], own[2 * k + 1]])
}

const strokeLook = (tool: BlockTool): string =>
  tool === 'erase' ? 'fill-white/70 stroke-[#7a8388]' : 'fill-primary/40 stroke-primary'

const pathOf = (points: [number, number][]): string =>
  points.some(([x]) => Number.isNaN(x))
    ? ''
    : points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')

const blocksPath = (blocks: readonly Address[], grid: BlockGrid, toPx: ToPx): string =>
  [...new Map(blocks.map((block) => [addressKey(...block), block])).values()]
    .map(([q, r]) => `M${pathOf(cornersOf(grid, q, r).map((at) => toPx(...at)))}Z`)
    .join('')

/** The sides of blocks on which there is something else. */
function edgePath(own: Int32Array, grid: BlockGrid, toPx: ToPx): string {
  const has = new Set<string>()
  for (let k = 0; k < own.length; k += 2) has.add(addressKey(own[k], own[k + 1]))
  const parts: string[] = []
  for (let k = 0; k < own.length; k += 2) {
    const corners = cornersOf(grid, own[k], own[k + 1])
    around[grid.shape].forEach(([dq, dr], side) => {
      if (has.has(addressKey(own[k] + dq, own[k + 1] + dr))) return
      const line = pathOf([toPx(...corners[side]), toPx(...corners[(side + 1) % corners.length])])
      if (line) parts.push(`M${line}`)
    })
  }
  return parts.join('')
}

function middleOfBody(own: Int32Array, grid: BlockGrid): [number, number] {
  let [q, r] = [0, 0]
  for (let k = 0; k < own.length; k += 2) {
    q += own[k]
    r += own[k + 1]
  }
  const n = own.length / 2
  return middleOf(grid, q / n, r / n)
}

const Count = ({ at: [x, y], words }: { at: [number, number]; words: string }) =>
  Number.isNaN(x) ? null : (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize={11}
      fontWeight={600}
      fill="#9c1f5e"
      stroke="#fff"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {words}
    </text>
  )
