'use client'
import { Trash2 } from 'lucide-react'
import { textAt } from '@/core/data/column'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { looseMatches, type LooseMatch, type Match, type NearMiss } from '@/core/data/join'
import type { JoinSettings } from '@/core/data/steps/join'
import { Button, Check, IconButton } from '../../kit/controls'
import { wayWords } from './match-words'

type Props = {
  match: Match
  settings: JoinSettings
  before: Prepared
  other: Prepared
  onMend: (name: string, mended: Record<string, string>) => void
  onAccept: (accepts: LooseMatch[]) => void
  /** Shows a row of this dataset on the map. */
  onLook: (row: number) => void
}

/**
 * What a join found: near misses that can be matched by hand, what was, and what stayed over on either side.
 */
export function JoinReport({ match, settings, before, other, onMend, onAccept, onLook }: Props) {
  const otherKey = other.dataset.fields.find((f) => f.key === settings.keys[0].otherKey)?.column
  const { mended } = settings
  const alike = match.nearMisses.filter(({ kind }) => kind === 'alike')
  return (
    <div className="flex flex-col gap-2 text-xs">
      {looseMatches.map((kind) => (
        <Way
          key={kind}
          kind={kind}
          accepted={settings.accepts.includes(kind)}
          matched={match.byKind[kind]}
          waiting={match.nearMisses.filter((miss) => miss.kind === kind)}
          onChange={(on) =>
            onAccept(on ? [...settings.accepts, kind] : settings.accepts.filter((one) => one !== kind))
          }
        />
      ))}
      {alike.length > 0 && (
        <div>
          <p className="font-semibold">Alike</p>
          <ul>
            {alike.map((miss) => (
              <li key={miss.value} className="flex items-center justify-between gap-1 py-0.5">
                <button
                  type="button"
                  className="text-left hover:underline"
                  title="Show it on the map"
                  onClick={() => onLook(miss.row)}
                >
                  {shown(miss.value)} ~ “{shown(miss.otherValue)}”{' '}
                  <span className="text-muted">
                    ({miss.reason}, {Math.round(miss.score * 100)} %)
                  </span>
                </button>
                <Button
                  className="!h-6"
                  onClick={() => onMend('Match by hand', { ...mended, [miss.value]: miss.otherValue })}
                >
                  Match
                </Button>
              </li>
            ))}
          </ul>
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

/** Keys that differ in one way, taken for the same or not, all of them at once. */
function Way({
  kind,
  accepted,
  matched,
  waiting,
  onChange,
}: {
  kind: LooseMatch
  accepted: boolean
  matched: number
  waiting: NearMiss[]
  onChange: (on: boolean) => void
}) {
  const count = accepted ? matched : waiting.length
  if (!count && !accepted) return null
  const examples = waiting
    .slice(0, 3)
    .map(({ value, otherValue }) => `${shown(value)} = “${shown(otherValue)}”`)
    .join(', ')
  return (
    <div>
      <Check
        label={`${count.toLocaleString('en-GB')} ${wayWords[kind]}`}
        checked={accepted}
        onChange={onChange}
      />
      {!accepted && <p className="text-muted">{examples}</p>}
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
