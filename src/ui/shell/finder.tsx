'use client'
import { useMemo, useState } from 'react'
import { Dialog } from '../kit/popover'
import { openBecoming } from '../map/become/become-dialog'
import { desks, useDocument, useFolio } from './folio-store'

type Found = { label: string; kind: string; go: () => void }

/** What begins with the words first, then what has them in its name, last what lies in something of that name. */
function inOrder(all: Found[], words: string): Found[] {
  const rank = ({ label, kind }: Found): number => {
    const name = label.toLowerCase()
    if (name.startsWith(words)) return 0
    if (name.includes(words)) return 1
    return kind.toLowerCase().includes(words) ? 2 : 3
  }
  return all
    .map((item) => ({ item, rank: rank(item) }))
    .filter((one) => one.rank < 3)
    .sort((a, b) => a.rank - b.rank)
    .map(({ item }) => item)
}

/** Find anything in the folio by its name, and go there. */
export function Finder({ open, onClose }: { open: boolean; onClose: () => void }) {
  const folio = useDocument()
  const [words, setWords] = useState('')
  const [at, setAt] = useState(0)
  const all = useMemo((): Found[] => {
    const { select, openDesk } = useFolio.getState()
    return [
      ...desks.map((desk) => ({
        label: desk.charAt(0).toUpperCase() + desk.slice(1),
        kind: 'desk',
        go: () => openDesk(desk),
      })),
      { label: 'What this data can become', kind: 'gallery of maps', go: () => openBecoming() },
      ...folio.datasets.map(({ id, name }) => ({
        label: name,
        kind: 'dataset',
        go: () => (select({ datasetId: id }), openDesk('data')),
      })),
      ...folio.maps.flatMap((map) => [
        { label: map.name, kind: 'map', go: () => (select({ mapId: map.id }), openDesk('map')) },
        ...map.layers.map((layer) => ({
          label: layer.name,
          kind: `layer of ${map.name}`,
          go: () => (select({ mapId: map.id, layerId: layer.id }), openDesk('map')),
        })),
      ]),
      ...folio.sheets.flatMap((sheet) => [
        {
          label: sheet.name,
          kind: 'sheet',
          go: () => (select({ sheetId: sheet.id, partIds: [] }), openDesk('sheet')),
        },
        ...sheet.parts.map((part) => ({
          label: part.name,
          kind: `part of ${sheet.name}`,
          go: () => (select({ sheetId: sheet.id, partIds: [part.id] }), openDesk('sheet')),
        })),
      ]),
    ]
  }, [folio])
  const matches = inOrder(all, words.trim().toLowerCase()).slice(0, 12)
  const take = (item: Found | undefined) => {
    item?.go()
    setWords('')
    onClose()
  }
  return (
    <Dialog open={open} onClose={onClose} title="Find anything">
      <input
        autoFocus
        aria-label="What to find"
        placeholder="A dataset, layer, sheet, part…"
        className="control w-full"
        value={words}
        onChange={(event) => {
          setWords(event.target.value)
          setAt(0)
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt((i) => Math.min(matches.length - 1, i + 1))
          else if (event.key === 'ArrowUp') setAt((i) => Math.max(0, i - 1))
          else if (event.key === 'Enter') take(matches[at])
          else return
          event.preventDefault()
        }}
      />
      <ul className="mt-2">
        {matches.map((item, i) => (
          <li key={`${i} ${item.kind} ${item.label}`}>
            <button
              type="button"
              onClick={() => take(item)}
              onMouseEnter={() => setAt(i)}
              className={`flex w-full justify-between rounded px-2 py-1 text-left ${i === at ? 'bg-tint' : ''}`}
            >
              <span>{item.label}</span>
              <span className="text-xs text-muted">{item.kind}</span>
            </button>
          </li>
        ))}
        {!matches.length && <li className="px-2 py-1 text-muted">Nothing is called that.</li>}
      </ul>
    </Dialog>
  )
}
