'use client'
import { nanoid } from 'nanoid'
import { useEffect, useRef } from 'react'
import { api, ApiProblem } from './api'
import { failureWords } from './autosave-words'
import { useFolio, type SaveAttempt } from './folio-store'

const pauseMs = 500
/** Edits that go on without a pause are saved after this long all the same. */
const longestMs = 2000
const retryMs = 4000

let running = false

/**
 * What is sent next. A save whose answer never came goes again as it was, under its key, before anything newer:
 * the server may have taken it.
 */
function nextAttempt(): SaveAttempt {
  const { history, revision, unanswered } = useFolio.getState()
  if (unanswered) return unanswered
  const label = history.done.at(-1)?.name ?? 'Saved'
  return { folio: history.folio, baseRevision: revision, label, saveKey: nanoid() }
}

/** Whether the server may have taken a save although it did not say so. */
const mayBeTaken = (error: unknown): boolean => !(error instanceof ApiProblem) || error.status === 0

/** Saves the folio as it is now. A save that came too late is refused by the server and kept there. */
export async function saveNow(): Promise<void> {
  const { save, setSave, setUnanswered } = useFolio.getState()
  if (running || save.status === 'refused' || save.status === 'saved') return
  running = true
  setSave({ status: 'saving' })
  const attempt = nextAttempt()
  try {
    const { folio } = attempt
    const answer = await api<{ revision: number; savedAt: string }>('PUT', `/api/folios/${folio.id}`, attempt)
    setUnanswered(null)
    const now = useFolio.getState()
    now.setSave(
      now.history.folio === folio ? { status: 'saved', at: answer.savedAt } : { status: 'unsaved' },
      answer.revision,
    )
  } catch (error) {
    setUnanswered(mayBeTaken(error) ? attempt : null)
    if (error instanceof ApiProblem && error.status === 409)
      setSave({
        status: 'refused',
        revision: Number(error.more.revision),
        changedAt: String(error.more.changedAt),
      })
    else setSave({ status: 'failed', message: failureWords(error) })
  } finally {
    running = false
    // What was edited while this save was under way is saved next.
    if (useFolio.getState().save.status === 'unsaved') setTimeout(() => void saveNow(), pauseMs)
  }
}

/** Waits until the folio is saved; false when it could not be. */
export async function saved(): Promise<boolean> {
  for (let attempt = 0; attempt < 100; attempt++) {
    const { status } = useFolio.getState().save
    if (status === 'saved') return true
    if (status === 'refused' || (status === 'failed' && attempt > 3)) return false
    await saveNow()
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  return false
}

/** Saves shortly after every edit, and again after a failure. */
export function useAutosave(): void {
  const unsavedSince = useRef<number | null>(null)
  const status = useFolio((state) => state.save.status)
  const folio = useFolio((state) => state.history.folio)
  useEffect(() => {
    if (status === 'saved') unsavedSince.current = null
    if (status !== 'unsaved' && status !== 'failed') return
    const now = performance.now()
    unsavedSince.current ??= now
    const left = Math.max(0, unsavedSince.current + longestMs - now)
    const timer = setTimeout(
      () => {
        unsavedSince.current = null
        void saveNow()
      },
      status === 'failed' ? retryMs : Math.min(pauseMs, left),
    )
    return () => clearTimeout(timer)
  }, [status, folio])
  useEffect(() => {
    const flush = () => void saveNow()
    const warn = (event: BeforeUnloadEvent) => {
      const { status: now } = useFolio.getState().save
      if (now === 'saved') return
      void saveNow()
      event.preventDefault()
    }
    document.addEventListener('visibilitychange', flush)
    window.addEventListener('beforeunload', warn)
    return () => {
      document.removeEventListener('visibilitychange', flush)
      window.removeEventListener('beforeunload', warn)
    }
  }, [])
}
