'use client'
import { Search } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { Extent } from '@/core/geo/geometry'
import type { SystemCard } from '@/server/reference-systems'
import { Popover } from '../kit/popover'
import { api } from '../shell/api'

/** A search of the EPSG list by name, place or code; systems whose area of use holds the data come first. */
export function SystemPicker({
  value,
  extent,
  onPick,
}: {
  value: string
  extent?: Extent | null
  onPick: (code: string, system: SystemCard) => void
}) {
  const [words, setWords] = useState('')
  const [systems, setFound] = useState<SystemCard[]>([])
  const [problem, setProblem] = useState('')
  useEffect(() => {
    let here = true
    const timer = setTimeout(
      () =>
        void api<SystemCard[]>(
          'GET',
          `/api/reference-systems?words=${encodeURIComponent(words)}&extent=${extent?.join(',') ?? ''}`,
        ).then(
          (list) => here && setFound(list),
          (error: Error) => here && setProblem(error.message),
        ),
      150,
    )
    return () => {
      here = false
      clearTimeout(timer)
    }
  }, [words, extent])
  return (
    <Popover
      label="Reference system"
      className="w-80"
      trigger={
        <button
          type="button"
          aria-label={`Reference system: ${value}`}
          className="control flex w-full min-w-0 items-center gap-2"
        >
          <Search size={13} className="shrink-0" aria-hidden /> <span className="truncate">{value}</span>
        </button>
      }
    >
      {(close) => (
        <>
          <input
            autoFocus
            aria-label="Find a reference system"
            placeholder="Name, place or code"
            className="control w-full"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <ul className="mt-1 max-h-64 overflow-y-auto">
            {systems.map((system) => (
              <li key={system.code}>
                <button
                  type="button"
                  className="flex w-full flex-col rounded px-2 py-1 text-left hover:bg-base-200"
                  onClick={() => {
                    onPick(system.code, system)
                    close()
                  }}
                >
                  <span className="flex justify-between gap-2">
                    <span className="truncate">{system.name}</span>{' '}
                    <span className="shrink-0 text-xs text-muted">{system.code}</span>
                  </span>
                  <span className="truncate text-xs text-muted">{system.area}</span>
                </button>
              </li>
            ))}
            {!systems.length && (
              <li className="px-2 py-1 text-xs text-muted">{problem || 'Nothing of that name.'}</li>
            )}
          </ul>
        </>
      )}
    </Popover>
  )
}
