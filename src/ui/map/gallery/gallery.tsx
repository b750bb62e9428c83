'use client'
import { useState } from 'react'
import type { Layer } from '@/core/map/spec'
import { Button, Check } from '../../kit/controls'
import { Dialog } from '../../kit/popover'
import { MapPicture, type Looked } from './map-picture'

/** One of the ways in which a layer could be, with what speaks for it. */
export type Alternative = { id: string; label: string; detail: string; layer: Layer }

type Props = {
  open: boolean
  onClose: () => void
  title: string
  /** In which order they stand. */
  order: string
  looked: Looked
  /** Null while they are tried out. */
  alternatives: Alternative[] | null
  chosen: string
  /** What else is to be said, such as which ways cannot be gone. */
  remark?: string
  onAdopt: (id: string) => void
}

const picture = { width: 258, height: 172 }
const large = { width: 1080, height: 500 }

/**
 * The same map in every way that its layer could be, in small pictures; one click adopts one, two can be laid over each
 * other.
 */
export function Gallery({
  open,
  onClose,
  title,
  order,
  looked,
  alternatives,
  chosen,
  remark,
  onAdopt,
}: Props) {
  const [laid, setLaid] = useState<string[]>([])
  const pair = laid.flatMap((id) => alternatives?.find((one) => one.id === id) ?? [])
  const adopt = (id: string) => {
    onAdopt(id)
    onClose()
  }
  return (
    <Dialog open={open} onClose={onClose} title={title} width="wide">
      {pair.length === 2 ? (
        <Overlaid
          looked={looked}
          pair={pair as [Alternative, Alternative]}
          onBack={() => setLaid([])}
          onAdopt={adopt}
        />
      ) : (
        <>
          <p className="mb-2 text-xs text-muted">
            {order} A click takes the method over; mark two to lay them over each other.
          </p>
          {!alternatives?.length && (
            <p role="status">{alternatives ? 'No method can be used.' : 'The methods are tried out…'}</p>
          )}
          <ul className="grid grid-cols-4 gap-3" aria-label="Methods compared">
            {(alternatives ?? []).map(({ id, label, detail, layer }) => (
              <li key={id} className={`rounded border ${id === chosen ? 'border-primary' : 'border-line'}`}>
                <button
                  type="button"
                  aria-label={`Adopt ${label}`}
                  className="block w-full text-left hover:bg-base-200"
                  onClick={() => adopt(id)}
                >
                  <MapPicture looked={looked} as={layer} size={picture} />
                  <span className="block px-2 pt-1 font-semibold first-letter:uppercase">{label}</span>
                  <span className="block px-2 text-xs text-muted">{detail}</span>
                </button>
                <span className="block px-2">
                  <Check
                    label="Lay over another"
                    checked={laid.includes(id)}
                    onChange={(on) => setLaid(on ? [...laid, id] : laid.filter((other) => other !== id))}
                  />
                </span>
              </li>
            ))}
          </ul>
          {remark && <p className="mt-2 text-xs text-muted">{remark}</p>}
        </>
      )}
    </Dialog>
  )
}

/** Two of them over each other with a divider to be slid. */
function Overlaid({
  looked,
  pair: [left, right],
  onBack,
  onAdopt,
}: {
  looked: Looked
  pair: [Alternative, Alternative]
  onBack: () => void
  onAdopt: (id: string) => void
}) {
  const [share, setShare] = useState(50)
  return (
    <div>
      <div className="relative overflow-hidden rounded border border-line">
        <MapPicture looked={looked} as={right.layer} size={large} />
        <div className="absolute inset-0" style={{ clipPath: `inset(0 ${100 - share}% 0 0)` }}>
          <MapPicture looked={looked} as={left.layer} size={large} />
        </div>
        <span
          className="pointer-events-none absolute inset-y-0 w-0.5 bg-primary"
          style={{ left: `${share}%` }}
        />
      </div>
      <input
        type="range"
        aria-label="Divider between the two maps"
        className="range range-primary range-xs mt-3 w-full"
        min={0}
        max={100}
        value={share}
        onChange={(event) => setShare(Number(event.target.value))}
      />
      <div className="mt-2 flex items-center justify-between">
        <Button onClick={() => onAdopt(left.id)}>Take {left.label}</Button>
        <Button look="quiet" onClick={onBack}>
          All of them
        </Button>
        <Button onClick={() => onAdopt(right.id)}>Take {right.label}</Button>
      </div>
    </div>
  )
}
