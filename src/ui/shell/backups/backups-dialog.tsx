'use client'
import { DatabaseBackup } from 'lucide-react'
import { useState } from 'react'
import { Dialog } from '../../kit/popover'
import { momentWords } from '../time'
import { BackupList } from './backup-list'

/** When the shelf was backed up last; a press shows the backups. */
export function BackupsButton({
  last: initial,
  onBroughtBack,
}: {
  last: string | null
  onBroughtBack: () => void
}) {
  const [open, setOpen] = useState(false)
  const [last, setLast] = useState(initial)
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="inline-flex h-6 items-center gap-1.5 rounded px-1.5 text-xs text-muted hover:bg-base-200 hover:text-base-content"
        suppressHydrationWarning
      >
        <DatabaseBackup size={13} aria-hidden />
        {last === null ? 'not backed up yet' : `backed up ${momentWords(last)}`}
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} title="Backups" width="medium">
        <BackupList
          isLost={false}
          onLast={setLast}
          onBroughtBack={() => {
            setOpen(false)
            onBroughtBack()
          }}
        />
      </Dialog>
    </>
  )
}
