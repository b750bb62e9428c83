'use client'
import { BackupList } from './backup-list'

/** In place of the shelf where its database is damaged or gone: what is wrong, and the ways out. */
export function LostDatabase({ title, detail }: { title: string; detail: string }) {
  return (
    <main className="mx-auto flex h-full max-w-[620px] flex-col justify-center gap-4 px-6">
      <div role="alert">
        <h1 className="font-serif text-xl font-semibold">{title}</h1>
        <p className="mt-2 text-muted">{detail}</p>
      </div>
      <BackupList isLost onBroughtBack={() => window.location.reload()} />
    </main>
  )
}

/** Above the shelf where its database was moved away while it was open. */
export function MovedDatabase() {
  return (
    <div
      role="alert"
      className="mb-5 flex items-center justify-between gap-4 rounded border border-error px-3 py-2"
    >
      <span>
        The database was moved or removed while it was open. Folios are shown from it as they were saved, and
        nothing is written until it is back where it was.
      </span>
      <a
        href="/api/backups/copy"
        className="inline-flex h-7 shrink-0 items-center rounded border border-line px-2.5 text-[13px] font-medium hover:border-muted"
      >
        Save a copy of it
      </a>
    </div>
  )
}
