'use client'
import { useCallback, useEffect, useState } from 'react'
import type { BackupCard } from '@/server/backups/backups'
import { Button } from '../../kit/controls'
import { FileButton } from '../../kit/file-button'
import { api, followJob } from '../api'
import { fetchWritten, LongWorkLine, useLongWork } from '../long-work'
import { momentWords } from '../time'

type Listed = { backups: BackupCard[]; failure: string | null }

const reasons: Record<BackupCard['reason'], string> = {
  schedule: 'by the clock',
  asked: 'asked for',
  restoring: 'before something was brought back',
}

const sizeWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`

const foliosWords = (count: number): string => (count === 1 ? '1 folio' : `${count} folios`)

/**
 * The backups of the shelf, each one press away from being brought back, and all that is kept as one file.
 * @param isLost whether there is no database to back up
 */
export function BackupList({
  isLost,
  onBroughtBack,
  onLast,
}: {
  isLost: boolean
  onBroughtBack: () => void
  /** Hears when the last one was made, whenever they were looked up. */
  onLast?: (madeAt: string) => void
}) {
  const [listed, setListed] = useState<Listed | null>(null)
  const [chosen, setChosen] = useState<string | null>(null)
  const [aside, setAside] = useState<string | null>(null)
  const { work, problem, attempt } = useLongWork()
  const refresh = useCallback(async () => {
    const found = await api<Listed>('GET', '/api/backups')
    setListed(found)
    if (found.backups.length) onLast?.(found.backups[0].madeAt)
  }, [onLast])
  useEffect(() => void attempt('Looking up the backups', refresh), [attempt, refresh])
  const done = ({ aside: folder }: { aside: string | null }) => {
    setChosen(null)
    setAside(folder)
    if (folder === null) onBroughtBack()
  }
  const bringBack = (id: string) =>
    attempt('Bringing it back', async () =>
      done(await api<{ aside: string | null }>('POST', `/api/backups/${id}/restore`)),
    )
  const bringBackFile = (file: File) =>
    attempt(`Bringing back ${file.name}`, async ({ onProgress, signal }) => {
      onProgress(0, 'Sending')
      const { jobId } = await api<{ jobId: string }>('PUT', '/api/backups/everything', file, signal)
      done(await followJob<{ aside: string | null }>(jobId, onProgress, signal))
    })
  if (aside !== null) return <BroughtBack aside={aside} onGoOn={onBroughtBack} />
  return (
    <div className="flex flex-col gap-4">
      {!isLost && (
        <div className="flex items-start justify-between gap-4">
          <p className="text-muted">
            All folios are backed up once an hour while they change. Older backups are kept one a day for two
            weeks and one a week for two months.
          </p>
          <Button
            className="shrink-0"
            onClick={() =>
              void attempt('Making a backup', async () => {
                await api('POST', '/api/backups')
                await refresh()
              })
            }
          >
            Back up now
          </Button>
        </div>
      )}
      {problem && (
        <p role="alert" className="rounded border border-error px-3 py-2 text-error">
          {problem}
        </p>
      )}
      {listed?.failure && (
        <p role="alert" className="rounded border border-warning px-3 py-2">
          The last backup could not be made: {listed.failure}.
        </p>
      )}
      {work && <LongWorkLine work={work} />}
      <ul aria-label="Backups" className="flex max-h-72 flex-col overflow-y-auto">
        {listed?.backups.map((card) => (
          <li key={card.id} className="border-b border-line px-1 py-1.5 last:border-0">
            <div className="flex items-center justify-between gap-3">
              <span className="min-w-0" suppressHydrationWarning>
                <span className="font-medium">{momentWords(card.madeAt)}</span>
                <span className="ml-2 text-xs text-muted">
                  {foliosWords(card.folios)} · {sizeWords(card.bytes)} · {reasons[card.reason]}
                </span>
              </span>
              {chosen !== card.id && <Button onClick={() => setChosen(card.id)}>Bring back…</Button>}
            </div>
            {chosen === card.id && (
              <div className="mt-1 flex items-center justify-between gap-3 rounded bg-base-200 px-2 py-1.5">
                <span>
                  {isLost
                    ? 'What is left of the database is put aside as it is.'
                    : 'The shelf becomes as it was then. What is on it now is backed up before.'}
                </span>
                <span className="flex shrink-0 gap-2">
                  <Button look="primary" disabled={work !== null} onClick={() => void bringBack(card.id)}>
                    Bring it back
                  </Button>
                  <Button onClick={() => setChosen(null)}>Leave it</Button>
                </span>
              </div>
            )}
          </li>
        ))}
        {listed?.backups.length === 0 && <li className="text-muted">There is none yet.</li>}
      </ul>
      <section className="flex flex-col gap-2 border-t border-line pt-3">
        <h3 className="font-semibold">Everything as one file</h3>
        <p className="text-muted">
          All folios with their rows, pictures, templates, prints and the files that were brought in, for
          another disk or another machine.
        </p>
        <div className="flex gap-2">
          {!isLost && (
            <Button
              onClick={() =>
                void attempt('Writing everything', async (progress) => {
                  await fetchWritten('/api/backups/everything', {}, progress)
                  await refresh()
                })
              }
            >
              Save a file of everything
            </Button>
          )}
          <FileButton
            label="File of everything"
            words="Bring back from a file"
            accept=".tar,.sqlite"
            onFile={(file) => void bringBackFile(file)}
          />
        </div>
      </section>
    </div>
  )
}

function BroughtBack({ aside, onGoOn }: { aside: string; onGoOn: () => void }) {
  return (
    <div className="flex flex-col gap-3">
      <p>
        The shelf is back. What was left of the old database lies in{' '}
        <code className="break-all">{aside}</code> in the data folder; nothing reads it any more.
      </p>
      <div>
        <Button look="primary" onClick={onGoOn}>
          To the shelf
        </Button>
      </div>
    </div>
  )
}
