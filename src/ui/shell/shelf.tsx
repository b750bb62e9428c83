'use client'
import {
  BookOpen,
  CircleHelp,
  Copy,
  FolderOpen,
  MoreHorizontal,
  Pencil,
  Plus,
  Search,
  Trash2,
  TriangleAlert,
  Upload,
} from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { useDropzone } from 'react-dropzone'
import { importExtensions } from '@/formats/list'
import type { FolioInWindow } from '@/server/documents'
import type { FolioCard } from '@/server/folios'
import { Button, IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { TemplateShelf } from '../sheet/templates/template-shelf'
import { addImported, importFile } from '../data/importing'
import { api, ApiProblem, followJob } from './api'
import { BackupsButton } from './backups/backups-dialog'
import { MovedDatabase } from './backups/lost-database'
import { KeyHelp } from './key-help'
import { LeaveButton } from './leave-button'
import { filesToSend } from '../data/rasters-together'
import { fetchWritten, LongWorkLine, useLongWork } from './long-work'
import { MenuItem } from './menu-item'
import { SaveItems } from './save-items'
import { ThemeButton } from './theme'
import { whenWords } from './time'
import { Wordmark } from './wordmark'

/** The start page: every folio with its picture. */
export function Shelf({
  initial,
  canLeave,
  lastBackup,
  isMoved,
}: {
  initial: FolioCard[]
  canLeave: boolean
  lastBackup: string | null
  isMoved: boolean
}) {
  const router = useRouter()
  const [folios, setFolios] = useState(initial)
  const [wanted, setWanted] = useState('')
  const [renaming, setRenaming] = useState<string | null>(null)
  const [deleted, setDeleted] = useState<FolioCard | null>(null)
  /** What is to be said of a file that was saved. */
  const [said, setSaid] = useState<string[]>([])
  const { work, problem, attempt } = useLongWork()
  const [help, setHelp] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const search = useRef<HTMLInputElement>(null)

  const refresh = async () => setFolios(await api<FolioCard[]>('GET', '/api/folios'))
  const open = (id: string) => router.push(`/folio/${id}`)
  const openFile = (file: File) =>
    attempt(`Opening ${file.name}`, async ({ onProgress, signal }) => {
      onProgress(0, 'Sending')
      const { jobId } = await api<{ jobId: string }>('POST', '/api/folios/open', file, signal)
      const opened = followJob<{ id: string }>(jobId, onProgress, signal).catch((error: unknown) => {
        if (!(error instanceof ApiProblem)) throw error
        throw new ApiProblem(error.status, 'This file cannot be opened', error.detail, {})
      })
      open((await opened).id)
    })
  const startFrom = (files: File[]) =>
    files.length === 1 && files[0].name.endsWith('.keen.json') ? openFile(files[0]) : readData(files)
  const readData = (files: File[]) =>
    attempt(`Bringing in ${files.map((f) => f.name).join(', ')}`, async ({ onProgress, signal }) => {
      const reading = (await filesToSend(files)).map((file) => importFile(file, onProgress, signal))
      const results = (await Promise.all(reading)).flat()
      const made = await api<FolioInWindow>('POST', '/api/folios', { name: results[0]?.name ?? 'New folio' })
      await api('PUT', `/api/folios/${made.folio.id}`, {
        baseRevision: made.revision,
        folio: addImported(made.folio, results),
        label: 'Bring in data',
      })
      open(made.folio.id)
    })
  const drop = useDropzone({
    onDrop: (files) => files.length && void startFrom(files),
    noClick: true,
    noKeyboard: true,
  })

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement) return
      if (event.key === '/') search.current?.focus()
      else if (event.key === '?') setHelp(true)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  const shown = folios.filter((folio) => folio.name.toLowerCase().includes(wanted.trim().toLowerCase()))
  return (
    <div
      {...drop.getRootProps()}
      className={`flex h-full flex-col ${drop.isDragActive ? 'ring-2 ring-primary ring-inset' : ''}`}
    >
      <input
        {...drop.getInputProps({ 'aria-label': 'Data for a new folio', className: 'hidden', style: {} })}
      />
      <header className="flex h-11 shrink-0 items-center justify-between border-b border-line bg-base-100 px-3">
        <Wordmark />
        <div className="flex items-center gap-1">
          <label className="control mr-2 flex items-center gap-2">
            <Search size={14} aria-hidden />
            <input
              ref={search}
              aria-label="Find a folio"
              placeholder="Find a folio"
              className="w-24 bg-transparent outline-none placeholder:text-muted"
              value={wanted}
              onChange={(event) => setWanted(event.target.value)}
            />
            <kbd className="rounded border border-line px-1.5 text-[11px] text-muted">/</kbd>
          </label>
          <ThemeButton />
          <IconButton label="Keys" onClick={() => setHelp(true)}>
            <CircleHelp size={16} />
          </IconButton>
          {canLeave && <LeaveButton />}
        </div>
      </header>
      <main className="min-h-0 flex-1 overflow-y-auto px-14 py-7">
        <div className="mb-7 flex items-center justify-between">
          <div className="flex items-baseline gap-3">
            <h1 className="font-serif text-[24px] font-semibold">Shelf</h1>
            <span className="text-xs text-muted">
              {folios.length === 1 ? '1 folio' : `${folios.length} folios`}
            </span>
            <BackupsButton last={lastBackup} onBroughtBack={() => window.location.reload()} />
          </div>
          <div className="flex gap-3">
            <Button
              onClick={() =>
                void attempt('Opening the demo', async () =>
                  open((await api<FolioInWindow>('POST', '/api/demo')).folio.id),
                )
              }
            >
              <BookOpen size={15} /> Open the demo
            </Button>
            <Button onClick={() => picker.current?.click()}>
              <FolderOpen size={15} /> Open a folio file
            </Button>
            <input
              ref={picker}
              type="file"
              accept=".json"
              aria-label="Folio file"
              className="hidden"
              onChange={(event) => event.target.files?.[0] && void openFile(event.target.files[0])}
            />
            <Button
              look="primary"
              onClick={() =>
                void attempt('Making a folio', async () =>
                  open((await api<FolioInWindow>('POST', '/api/folios', { name: 'New folio' })).folio.id),
                )
              }
            >
              <Plus size={15} /> New folio
            </Button>
          </div>
        </div>
        {isMoved && <MovedDatabase />}
        {problem && (
          <p role="alert" className="mb-5 rounded border border-error px-3 py-2 text-error">
            {problem}
          </p>
        )}
        {work && <LongWorkLine work={work} className="mb-5" />}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-6">
          {shown.map((folio) => (
            <li key={folio.id}>
              <Link
                href={`/folio/${folio.id}`}
                aria-label={`Open ${folio.name}`}
                className="block border border-line bg-base-100 shadow-[0_2px_6px_rgb(0_0_0/0.12)] hover:border-muted"
              >
                <CardPicture folio={folio} />
              </Link>
              <div className="mt-2 flex items-start justify-between">
                <div className="min-w-0 flex-1">
                  {renaming === folio.id ? (
                    <TextField
                      label="Name of the folio"
                      value={folio.name}
                      onChange={(name) =>
                        void attempt('Renaming', async () => {
                          await api('PATCH', `/api/folios/${folio.id}`, { name })
                          setRenaming(null)
                          await refresh()
                        })
                      }
                    />
                  ) : (
                    <p className="truncate font-semibold">{folio.name}</p>
                  )}
                  <p className="text-xs text-muted" suppressHydrationWarning>
                    {cardWords(folio)}
                  </p>
                </div>
                <Popover
                  label={`More for ${folio.name}`}
                  align="end"
                  trigger={
                    <IconButton label={`More for ${folio.name}`}>
                      <MoreHorizontal size={16} />
                    </IconButton>
                  }
                >
                  {(close) => (
                    <div className="flex w-56 flex-col">
                      <MenuItem
                        icon={<Pencil size={14} />}
                        label="Rename"
                        onClick={() => {
                          close()
                          setRenaming(folio.id)
                        }}
                      />
                      <MenuItem
                        icon={<Copy size={14} />}
                        label="Duplicate"
                        onClick={() => {
                          close()
                          void attempt('Copying', async () => {
                            await api('POST', `/api/folios/${folio.id}/duplicate`)
                            await refresh()
                          })
                        }}
                      />
                      <SaveItems
                        folioId={folio.id}
                        onSave={(withFine) => {
                          close()
                          void attempt(`Saving ${folio.name}`, async (progress) => {
                            setSaid(
                              await fetchWritten(`/api/folios/${folio.id}/file`, { withFine }, progress),
                            )
                          })
                        }}
                      />
                      <MenuItem
                        icon={<Trash2 size={14} />}
                        label="Delete"
                        onClick={() => {
                          close()
                          void attempt('Deleting', async () => {
                            await api('DELETE', `/api/folios/${folio.id}`)
                            setDeleted(folio)
                            await refresh()
                          })
                        }}
                      />
                    </div>
                  )}
                </Popover>
              </div>
            </li>
          ))}
          <li>
            <button
              type="button"
              onClick={drop.open}
              className="grid aspect-[1.414] w-full place-items-center border border-dashed border-muted text-muted hover:border-primary hover:text-primary"
            >
              <span className="flex flex-col items-center gap-2">
                <Upload size={18} />
                <span>
                  Drop data here
                  <br />
                  to start a folio
                </span>
                <span className="px-3 text-xs">{importExtensions.join('  ')}</span>
              </span>
            </button>
          </li>
        </ul>
        {shown.length === 0 && wanted && <p className="mt-6 text-muted">No folio is called “{wanted}”.</p>}
        <TemplateShelf attempt={(doing, work) => void attempt(doing, work)} onOpen={open} />
      </main>
      {said.length > 0 && (
        <div role="status" className="floating fixed bottom-20 left-1/2 max-w-[560px] -translate-x-1/2 p-3">
          {said.map((words) => (
            <p key={words}>{words}</p>
          ))}
          <Button look="quiet" onClick={() => setSaid([])}>
            Close
          </Button>
        </div>
      )}
      {deleted && (
        <div
          role="status"
          className="floating fixed bottom-5 left-1/2 flex -translate-x-1/2 items-center gap-3 px-4 py-2"
        >
          “{deleted.name}” was deleted.
          <Button
            onClick={() =>
              void attempt('Bringing it back', async () => {
                await api('POST', `/api/folios/${deleted.id}/restore`)
                setDeleted(null)
                await refresh()
              })
            }
          >
            Undo
          </Button>
        </div>
      )}
      <KeyHelp open={help} onClose={() => setHelp(false)} />
    </div>
  )
}

function cardWords({ isDemo, isDamaged, changedAt, sheetCount }: FolioCard): string {
  const counted = sheetCount === 1 ? '1 sheet' : `${sheetCount} sheets`
  const sheets = sheetCount === null ? '' : counted
  const words = [`changed ${whenWords(changedAt)}`, isDamaged ? 'cannot be read' : sheets]
    .filter(Boolean)
    .join(' · ')
  return isDemo ? `demo · ${words}` : words
}

function CardPicture({ folio }: { folio: FolioCard }) {
  const frame = 'grid aspect-[1.414] w-full place-items-center'
  if (folio.isDamaged)
    return (
      <span className={`${frame} text-error`}>
        <span className="flex items-center gap-2">
          <TriangleAlert size={16} aria-hidden /> damaged: open it to bring it back
        </span>
      </span>
    )
  if (!folio.hasThumbnail)
    return (
      <span className={`${frame} text-muted`}>{folio.sheetCount ? 'no picture yet' : 'no sheets yet'}</span>
    )
  return (
    <img
      src={`/api/folios/${folio.id}/thumbnail?r=${folio.revision}`}
      alt=""
      className="aspect-[1.414] w-full bg-white object-contain"
    />
  )
}
