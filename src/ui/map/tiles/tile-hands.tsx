'use client'
import { useMemo, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { blockAt, cornersOf, middleOf } from '@/core/cartogram/block-grid'
import { isTiled } from '@/core/cartogram/spec'
import { tileMoved, type TileAddress } from '@/core/cartogram/tile-hand'
import { createProjection } from '@/core/projection/projection'
import type { TilesThere } from '@/workers/tile-questions'
import { editingOf, type HandsProps } from '../kinds/kind-ui'
import { placeAt, planeToPx } from '../viewing'
import { placeTiles, useTileHand, useTiles } from './there'

/** Tiles of one size on a map, to be put elsewhere by the pointer or by keys; what stands there changes places. */
export function TileHands(props: HandsProps) {
  const { moving } = useTileHand()
  const { s } = editingOf('cartogram', props.layer)
  // As long as nobody works on them, nobody asks where they are.
  return moving && isTiled(s.form) ? <WithTiles {...props} /> : null
}

function WithTiles(props: HandsProps) {
  const there = useTiles(props.map, props.layer)
  return there && <Hands {...props} there={there} />
}

const sameTile = (a: TileAddress | null, b: TileAddress | null): boolean =>
  a !== null && b !== null && a[0] === b[0] && a[1] === b[1]

/** Where each arrow leads; rows of hexagons lie askew, so that up and down lead to either side by turns. */
function beside([q, r]: TileAddress, key: string, shape: TilesThere['grid']['shape']): TileAddress | null {
  const askew = shape === 'hexagons' && (r & 1) !== 0
  if (key === 'ArrowRight') return [q + 1, r]
  if (key === 'ArrowLeft') return [q - 1, r]
  if (key === 'ArrowUp') return shape === 'hexagons' ? [askew ? q + 1 : q, r - 1] : [q, r - 1]
  if (key === 'ArrowDown') return shape === 'hexagons' ? [askew ? q : q - 1, r + 1] : [q, r + 1]
  return null
}

function Hands({ map, layer, view, size, there }: HandsProps & { there: TilesThere }) {
  const { grid, cells, names } = there
  const [taken, setTaken] = useState<number | null>(null)
  const [at, setAt] = useState<TileAddress | null>(null)
  const toPx = useMemo(() => planeToPx(map, view, size), [map, view, size])
  const plane = useMemo(() => createProjection(map.projection), [map.projection])
  const ownerOf = (tile: TileAddress | null): number => cells.findIndex((cell) => sameTile(cell, tile))
  const under = (event: PointerEvent): TileAddress | null => {
    const box = event.currentTarget.getBoundingClientRect()
    const place = placeAt(map, view, size, { xPx: event.clientX - box.left, yPx: event.clientY - box.top })
    return place && blockAt(grid, ...plane.project(...place))
  }
  const drop = (to: TileAddress | null) => {
    setTaken(null)
    if (taken === null || !to || sameTile(cells[taken], to)) return
    const other = ownerOf(to)
    const name = other < 0 ? `Move ${names[taken]}` : `Swap ${names[taken]} and ${names[other]}`
    placeTiles({ map, layer, there }, tileMoved(cells, taken, to), name)
  }
  const onKey = (event: KeyboardEvent) => {
    const next = beside(at ?? [0, 0], event.key, grid.shape)
    if (next) setAt(at ? next : [0, 0])
    else if (event.key === 'Enter' || event.key === ' ') {
      if (taken !== null) drop(at)
      else if (ownerOf(at) >= 0) setTaken(ownerOf(at))
    } else if (event.key === 'Escape' && taken !== null) setTaken(null)
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  const outline = (tile: TileAddress): string => {
    const corners = cornersOf(grid, ...tile).map((corner) => toPx(...corner))
    return corners.some(([x]) => Number.isNaN(x)) ? '' : `M${corners.map(([x, y]) => `${x} ${y}`).join('L')}Z`
  }
  const other = ownerOf(at)
  const [x, y] = at ? toPx(...middleOf(grid, ...at)) : [0, 0]
  return (
    <div
      data-over-map
      role="application"
      aria-label="Tiles"
      aria-description="Arrow keys go from tile to tile, Enter takes one up and puts it down."
      tabIndex={0}
      className={`absolute inset-0 ${taken === null ? 'cursor-grab' : 'cursor-grabbing'}`}
      onKeyDown={onKey}
      onPointerDown={(event) => {
        const tile = under(event)
        const owner = ownerOf(tile)
        if (event.button !== 0 || owner < 0) return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        setTaken(owner)
        setAt(tile)
      }}
      onPointerMove={(event) => setAt(under(event))}
      onPointerUp={(event) => drop(under(event))}
      onPointerCancel={() => setTaken(null)}
    >
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        {taken !== null && cells[taken] && (
          <path
            d={outline(cells[taken])}
            fill="#ffffff99"
            stroke="#1b3a4b"
            strokeDasharray="3 2"
            strokeWidth={1.5}
          />
        )}
        {at && (taken !== null || other >= 0) && (
          <path
            d={outline(at)}
            className={taken === null ? 'stroke-[#1b3a4b]' : 'fill-primary/40 stroke-primary'}
            fill="none"
            strokeWidth={2.5}
          />
        )}
      </svg>
      {at && (taken !== null || other >= 0) && (
        <p
          role="status"
          className="floating pointer-events-none absolute px-2 py-1 text-xs whitespace-nowrap"
          style={{
            left: Math.max(4, Math.min(x + 16, size.width - 220)),
            top: Math.max(4, Math.min(y + 16, size.height - 32)),
          }}
        >
          {taken === null
            ? names[other]
            : words(names[taken], other < 0 || other === taken ? null : names[other])}
        </p>
      )}
    </div>
  )
}

const words = (name: string, other: string | null): string => (other ? `${name} for ${other}` : name)
