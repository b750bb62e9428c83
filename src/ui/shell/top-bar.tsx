'use client'
import { CircleHelp, Redo2, Search, Undo2 } from 'lucide-react'
import Link from 'next/link'
import { IconButton } from '../kit/controls'
import { TextField } from '../kit/text-field'
import { desks, editFolio, useDocument, useFolio, type Desk, type SaveState } from './folio-store'
import { ThemeButton } from './theme'
import { whenWords } from './time'
import { Wordmark } from './wordmark'

const deskNames: Record<Desk, string> = { data: 'Data', map: 'Map', sheet: 'Sheet', proof: 'Proof' }

export function TopBar({
  onFind,
  onKeys,
  onVersions,
}: {
  onFind: () => void
  onKeys: () => void
  onVersions: () => void
}) {
  const folio = useDocument()
  const { desk, save, history, openDesk, undo, redo } = useFolio()
  return (
    <header className="grid h-11 shrink-0 grid-cols-[1fr_auto_1fr] items-center border-b border-line bg-base-100 px-3">
      <div className="flex min-w-0 items-center gap-3">
        <Link href="/" aria-label="Keen Plot: to the shelf" className="shrink-0">
          <Wordmark />
        </Link>
        <span className="h-5 w-px bg-line" />
        <TextField
          label="Name of the folio"
          value={folio.name}
          className="max-w-44 !border-transparent !px-1 !text-[13px] font-semibold hover:!border-line"
          onChange={(name) => editFolio('Rename folio', (draft) => void (draft.name = name.slice(0, 200)))}
        />
        <span role="status" className="min-w-0">
          <button
            type="button"
            onClick={onVersions}
            title="Earlier versions"
            aria-label={`${saveWords(save)}. Earlier versions`}
            className={`max-w-full truncate rounded px-1 py-1 text-xs hover:underline ${save.status === 'failed' || save.status === 'refused' ? 'text-error' : 'text-muted'}`}
          >
            {saveWords(save)}
          </button>
        </span>
      </div>
      <nav aria-label="Desks" className="flex h-11">
        {desks.map((name, i) => (
          <button
            key={name}
            type="button"
            aria-current={desk === name ? 'page' : undefined}
            onClick={() => openDesk(name)}
            className={`flex h-11 items-center gap-2 border-b-2 px-[18px] ${desk === name ? 'border-primary font-semibold' : 'border-transparent text-muted hover:text-base-content'}`}
          >
            <span
              className={`grid size-[18px] place-items-center rounded-full text-[11px] ${desk === name ? 'bg-primary text-primary-content' : 'border border-line'}`}
            >
              {i + 1}
            </span>
            {deskNames[name]}
          </button>
        ))}
      </nav>
      <div className="flex items-center justify-end gap-1">
        <button type="button" onClick={onFind} className="control mr-1 flex items-center gap-2 text-muted">
          <Search size={14} /> Find anything{' '}
          <kbd className="rounded border border-line px-1.5 text-[11px]">/</kbd>
        </button>
        <IconButton
          label={history.done.length ? `Undo: ${history.done.at(-1)?.name}` : 'Undo'}
          disabled={!history.done.length}
          onClick={undo}
        >
          <Undo2 size={16} />
        </IconButton>
        <IconButton
          label={history.undone.length ? `Redo: ${history.undone.at(-1)?.name}` : 'Redo'}
          disabled={!history.undone.length}
          onClick={redo}
        >
          <Redo2 size={16} />
        </IconButton>
        <ThemeButton />
        <IconButton label="Keys" onClick={onKeys}>
          <CircleHelp size={16} />
        </IconButton>
      </div>
    </header>
  )
}

function saveWords(save: SaveState): string {
  switch (save.status) {
    case 'saved':
      return save.at ? `Saved ${whenWords(save.at)}` : 'Saved'
    case 'saving':
      return 'Saving…'
    case 'unsaved':
      return 'Not saved yet'
    case 'refused':
      return 'Not saved: changed elsewhere'
    case 'failed':
      return 'Not saved'
  }
}
