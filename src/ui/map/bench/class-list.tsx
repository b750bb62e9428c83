'use client'
import { AlertTriangle, Eye } from 'lucide-react'
import { useMemo } from 'react'
import { confusions, visions } from '@/core/colour/difference'
import { shapeWords } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import type { Classes } from '@/core/kinds/kind'

/** Under each class its colour, range and count; classes that will be taken for each other are marked between them. */
export function ClassList({ classes: { result, colours, labels }, prepared, aside }: { classes: Classes; prepared: Prepared; aside: { label: string; colour: string; count: number }[] }) {
  const [one, many] = nounsOf(prepared)
  const total = result.counts.reduce((a, b) => a + b, 0)
  const alike = useMemo(() => new Map(confusions(colours).map((found) => [found.index, found])), [colours])
  return (
    <ol className="flex min-h-0 flex-1 items-start gap-1 px-4" aria-label="Classes">
      {labels.map((label, i) => {
        const confused = alike.get(i)
        return (
          <li key={i} className="flex min-w-0 flex-1 gap-1.5">
            <span className="relative mt-0.5 h-8 w-1.5 shrink-0 rounded-sm border border-line" style={{ background: colours[i] }} />
            <span className="min-w-0 text-xs">
              <span className="flex items-center gap-1 font-semibold">
                <span className="truncate" title={label}>
                  {label}
                </span>
                {confused && (
                  <span title={`Hard to tell from the next class ${visions[confused.vision]} (difference ${confused.difference.toFixed(1)})`} className="shrink-0 text-caution">
                    <Eye size={12} aria-label={`hard to tell from the next class ${visions[confused.vision]}`} />
                  </span>
                )}
              </span>
              {result.counts[i] ? (
                <span className="block truncate text-muted" title={`${((100 * result.counts[i]) / total).toFixed(0)} % of them`}>
                  {result.counts[i]} {result.counts[i] === 1 ? one : many}
                </span>
              ) : (
                <span className="flex items-center gap-1 text-caution">
                  <AlertTriangle size={12} aria-hidden /> empty
                </span>
              )}
            </span>
          </li>
        )
      })}
      {aside.map(({ label, colour, count }, i) => (
        <li key={`aside ${i}`} className="flex min-w-0 shrink gap-1.5 border-l border-line pl-2">
          <span className="mt-0.5 h-8 w-1.5 shrink-0 rounded-sm border border-line" style={{ background: colour }} />
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

/** “district, districts” from the dataset's name; plain shapes where the name is no plural. */
function nounsOf({ entry, dataset }: Prepared): [string, string] {
  const name = entry.name.toLowerCase()
  return /^[a-z]+s$/.test(name) ? [name.replace(/ies$/, 'y').replace(/s$/, ''), name] : [...shapeWords[dataset.geometry.kind]]
}
