'use client'
import { AlertTriangle, Eye } from 'lucide-react'
import { useMemo } from 'react'
import { formatNumber } from '@/core/classify/labels'
import type { Classing } from '@/core/classify/spec'
import { confusions, visions } from '@/core/colour/difference'
import { shapeWords } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import type { Classes } from '@/core/kinds/kind'
import type { Layer } from '@/core/map/spec'
import { Button } from '../../kit/controls'
import { ColourPicker } from '../../kit/colour-picker'
import { Popover } from '../../kit/popover'
import { editLayer } from '../edit-map'

/**
 * Under each class its colour, range and count; classes that will be taken for each other are marked between
 * them.
 */
export function ClassList({
  layer,
  classes: { result, colours, labels, generated, things, km2 },
  words,
  shares,
  prepared,
  aside,
}: {
  layer: Layer
  classes: Classes
  words: Classing['classWords']
  shares: { name: string; shares: number[] } | null
  prepared: Prepared
  aside: { label: string; colour: string; count: number }[]
}) {
  const [one, many] = things ?? nounsOf(prepared)
  const total = result.counts.reduce((a, b) => a + b, 0)
  const alike = useMemo(
    () => new Map(confusions(colours).map((confusion) => [confusion.index, confusion])),
    [colours],
  )
  return (
    <ol className="flex min-h-0 flex-1 items-start gap-1 px-4" aria-label="Classes">
      {labels.map((label, i) => {
        const confused = alike.get(i)
        return (
          <li key={i} className="flex min-w-0 flex-1 gap-1.5">
            <ClassColour layer={layer} index={i} colour={colours[i]} label={label} />
            <span className="min-w-0 text-xs">
              <span className="flex items-center gap-1 font-semibold">
                <span className="truncate" title={label}>
                  {label}
                </span>
                {confused && (
                  <span
                    title={`Hard to tell from the next class ${visions[confused.vision]} (difference ${confused.difference.toFixed(1)})`}
                    className="shrink-0 text-caution"
                  >
                    <Eye
                      size={12}
                      aria-label={`hard to tell from the next class ${visions[confused.vision]}`}
                    />
                  </span>
                )}
              </span>
              {words[String(i)] && words[String(i)].was !== generated[i] && (
                <span
                  className="flex items-center gap-1 text-caution"
                  title={`Written for “${words[String(i)].was}”, which is now “${generated[i]}”`}
                >
                  <AlertTriangle size={12} aria-hidden /> may no longer fit
                </span>
              )}
              {result.counts[i] ? (
                <span
                  className="block truncate text-muted"
                  title={`${((100 * result.counts[i]) / total).toFixed(0)} % of them`}
                >
                  {result.counts[i].toLocaleString('en-GB')} {result.counts[i] === 1 ? one : many}
                </span>
              ) : (
                <span className="flex items-center gap-1 text-caution">
                  <AlertTriangle size={12} aria-hidden /> empty
                </span>
              )}
              {km2 && result.counts[i] > 0 && (
                <span
                  className="block truncate text-muted"
                  title={`${formatNumber(km2[i], 1)} km² of ground`}
                >
                  {formatNumber(km2[i], km2[i] < 10 ? 1 : 0)} km²
                </span>
              )}
              {shares && (
                <span
                  className="block truncate text-muted"
                  title={`${(100 * shares.shares[i]).toFixed(1)} % of ${shares.name}`}
                >
                  {(100 * shares.shares[i]).toFixed(0)} % of {shares.name}
                </span>
              )}
            </span>
          </li>
        )
      })}
      {aside.map(({ label, colour, count }, i) => (
        <li key={`aside ${i}`} className="flex min-w-0 shrink gap-1.5 border-l border-line pl-2">
          <span
            className="mt-0.5 h-8 w-1.5 shrink-0 rounded-sm border border-line"
            style={{ background: colour }}
          />
          <span className="min-w-0 text-xs">
            <span className="block truncate font-semibold" title={`Set aside: ${label}`}>
              {label}
            </span>
            <span className="block truncate text-muted">
              {count} {count === 1 ? one : many} aside
            </span>
          </span>
        </li>
      ))}
    </ol>
  )
}

/** The colour of a class; a click changes this one alone, where the kind colours by class. */
function ClassColour({
  layer,
  index,
  colour,
  label,
}: {
  layer: Layer
  index: number
  colour: string
  label: string
}) {
  const own = (layer.symbology.settings as { ownColours?: Record<string, string> }).ownColours
  const strip = 'mt-0.5 h-8 shrink-0 rounded-sm border border-line'
  if (!own) return <span className={`${strip} w-1.5`} style={{ background: colour }} />
  const set = (next: string | null) =>
    editLayer(
      layer.id,
      next ? `Colour of ${label}` : `Colour of ${label} from the scheme`,
      (draft) => {
        const colours = (draft.symbology.settings as { ownColours: Record<string, string> }).ownColours
        if (next) colours[String(index)] = next
        else delete colours[String(index)]
      },
      `own colour ${index}`,
    )
  return (
    <Popover
      label={`Colour of ${label}`}
      side="top"
      trigger={
        <button
          type="button"
          aria-label={`Colour of ${label}: ${colour}`}
          title="Change this colour alone"
          className={`${strip} w-3 hover:border-primary`}
          style={{ background: colour }}
        />
      }
    >
      <ColourPicker label={`Colour of ${label}`} value={colour} onChange={set} />
      {own[String(index)] && (
        <Button className="mt-2 w-full" onClick={() => set(null)}>
          As the scheme has it
        </Button>
      )}
    </Popover>
  )
}

/** “district, districts” from the dataset's name; plain shapes where the name is no plural. */
function nounsOf({ entry, dataset }: Prepared): [string, string] {
  const name = entry.name.toLowerCase()
  return /^[a-z]+s$/.test(name)
    ? [name.replace(/ies$/, 'y').replace(/s$/, ''), name]
    : [...shapeWords[dataset.geometry.kind]]
}
