'use client'
import { Trash2 } from 'lucide-react'
import { textAt } from '@/core/data/column'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import type { Match } from '@/core/data/join'
import type { JoinSettings } from '@/core/data/steps/join'
import { Button, IconButton } from '../../kit/controls'

type Props = {
  match: Match
  settings: JoinSettings
  before: Prepared
  other: Prepared
  onMend: (name: string, mended: Record<string, string>) => void
}

/**
 * What a join found: near misses that can be matched by hand, what was, and what stayed over on either side.
 */
export function JoinReport({ match, settings, before, other, onMend }: Props) {
  const otherKey = other.dataset.fields.find((f) => f.key === settings.keys[0].otherKey)?.column
  const { mended } = settings
  return (
    <div className="flex flex-col gap-2 text-xs">
      {match.nearMisses.length > 0 && (
        <div>
          <p className="font-semibold">Near misses</p>
          <ul>
            {match.nearMisses.map((miss) => (
              <li key={miss.value} className="flex items-center justify-between gap-1 py-0.5">
                <span>
                  {shown(miss.value)} ~ “{shown(miss.otherValue)}”{' '}
                  <span className="text-muted">
                    ({miss.reason}, {Math.round(miss.score * 100)} %)
                  </span>
                </span>
                <Button
                  className="!h-6"
                  onClick={() => onMend('Match by hand', { ...mended, [miss.value]: miss.otherValue })}
                >
                  Match
                </Button>
              </li>
            ))}
          </ul>
          <Button
            className="mt-1 w-full"
            onClick={() =>
              onMend('Match near misses', {
                ...mended,
                ...Object.fromEntries(match.nearMisses.map((miss) => [miss.value, miss.otherValue])),
              })
            }
          >
            Match all {match.nearMisses.length}
          </Button>
        </div>
      )}
      {Object.keys(mended).length > 0 && (
        <div>
          <p className="font-semibold">Matched by hand</p>
          <ul>
            {Object.entries(mended).map(([from, to]) => (
              <li key={from} className="flex items-center justify-between gap-1">
                <span>
                  {shown(from)} = “{shown(to)}”
                </span>
                <IconButton
                  label={`Part ${shown(from)} and ${shown(to)}`}
                  className="!size-6"
                  onClick={() =>
                    onMend('Part', Object.fromEntries(Object.entries(mended).filter(([key]) => key !== from)))
                  }
                >
                  <Trash2 size={12} />
                </IconButton>
              </li>
            ))}
          </ul>
        </div>
      )}
      <Unmatched
        title={`Without a row in ${other.entry.name}`}
        rows={match.unmatched.map((row) => rowName(before, row))}
      />
      <Unmatched
        title={`Rows of ${other.entry.name} left over`}
        rows={match.otherUnmatched.map((row) => (otherKey && textAt(otherKey, row)) ?? `row ${row + 1}`)}
      />
      {match.repeated.length > 0 && settings.several === 'first' && (
        <p className="text-caution">
          Several rows share a key; the first is used: {match.repeated.slice(0, 5).map(shown).join(', ')}
        </p>
      )}
    </div>
  )
}

/** Several keys are held apart by a character that has no shape. */
const shown = (key: string): string => key.replaceAll('\u001f', ' + ')

function Unmatched({ title, rows }: { title: string; rows: string[] }) {
  if (!rows.length) return null
  return (
    <div>
      <p className="font-semibold">
        {title} ({rows.length})
      </p>
      <p className="text-muted">
        {rows.slice(0, 20).join(', ')}
        {rows.length > 20 ? ` and ${rows.length - 20} more` : ''}
      </p>
    </div>
  )
}
