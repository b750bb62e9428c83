'use client'
import Link from 'next/link'
import { useState } from 'react'
import type { Damage } from '@/server/documents'
import { Button } from '../kit/controls'
import { api, ApiProblem } from './api'
import { whenWords } from './time'

/** In place of a folio whose document cannot be read: its last version that can be, one press away. */
export function DamagedFolio({ id, damage: { name, lastGood } }: { id: string; damage: Damage }) {
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const bringBack = async () => {
    setBusy(true)
    try {
      await api('POST', `/api/folios/${id}/recover`)
      window.location.reload()
    } catch (error) {
      setBusy(false)
      setProblem(error instanceof ApiProblem ? `${error.title}. ${error.detail}` : String(error))
    }
  }
  return (
    <main className="grid h-full place-items-center">
      <div className="max-w-md">
        <h1 className="font-serif text-xl font-semibold">“{name}” is damaged</h1>
        <p className="mt-2 text-muted" suppressHydrationWarning>
          What is stored of this folio cannot be read.{' '}
          {lastGood
            ? `Revision ${lastGood.number}, saved ${whenWords(lastGood.savedAt)}, is whole. It can be brought back as the newest revision; what is stored now is kept aside among the earlier versions.`
            : 'No earlier version of it is whole either. A folio file of it that was saved once can be opened from the shelf.'}
        </p>
        {problem && (
          <p role="alert" className="mt-2 text-error">
            {problem}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          {lastGood && (
            <Button look="primary" disabled={busy} onClick={() => void bringBack()}>
              Bring back revision {lastGood.number}
            </Button>
          )}
          <Link
            href="/"
            className="inline-flex h-7 items-center rounded border border-line px-2.5 text-[13px] font-medium hover:border-muted"
          >
            To the shelf
          </Link>
        </div>
      </div>
    </main>
  )
}
