'use client'
import { X } from 'lucide-react'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { DownloadCard } from '@/server/downloads'
import { saveFrom } from '../kit/save-file'
import { IconButton } from '../kit/controls'
import { api, ApiProblem, followJob } from './api'

/** Work of the server that the person waits for: what it is, how far it is, and how to stop it. */
export type LongWork = { words: string; share: number; doing: string; abort: AbortController }

export type Progress = { onProgress: (share: number, doing: string) => void; signal: AbortSignal }

/**
 * Carries out one long work at a time. What goes wrong is kept as words; what was stopped by the person is no
 * problem.
 */
export function useLongWork(): {
  work: LongWork | null
  problem: string | null
  attempt: (words: string, carryOut: (progress: Progress) => Promise<void>) => Promise<void>
} {
  const [work, setWork] = useState<LongWork | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const current = useRef<AbortController | null>(null)
  // Leaving the page stops what it waited for.
  useEffect(() => () => current.current?.abort(), [])
  const attempt = useCallback(async (words: string, carryOut: (progress: Progress) => Promise<void>) => {
    const abort = new AbortController()
    current.current = abort
    setProblem(null)
    setWork({ words, share: 0, doing: '', abort })
    try {
      await carryOut({
        onProgress: (share, doing) => setWork((now) => now && { ...now, share, doing }),
        signal: abort.signal,
      })
    } catch (error) {
      if (!(error instanceof DOMException && error.name === 'AbortError')) setProblem(wordsOf(error))
    } finally {
      current.current = null
      setWork(null)
    }
  }, [])
  return { work, problem, attempt }
}

function wordsOf(error: unknown): string {
  if (!(error instanceof ApiProblem)) return String(error)
  return error.detail && error.detail !== error.title ? `${error.title}. ${error.detail}` : error.title
}

/**
 * Has the server write a file, then lets the browser save it. Returns what is to be said of it.
 * @throws ApiProblem
 */
export async function fetchWritten(path: string, body: unknown, progress: Progress): Promise<string[]> {
  const { jobId } = await api<{ jobId: string }>('POST', path, body)
  const written = await followJob<DownloadCard>(jobId, progress.onProgress, progress.signal)
  saveFrom(`/api/downloads/${written.downloadId}`, written.fileName)
  return written.remarks
}

/** A line with the progress of a long work and the way to stop it. */
export function LongWorkLine({ work, className = '' }: { work: LongWork; className?: string }) {
  return (
    <div role="status" className={`flex items-center gap-3 text-muted ${className}`}>
      <span className="loading loading-spinner loading-xs" aria-hidden />
      <span className="min-w-0 truncate">
        {work.words}…{work.doing && ` ${work.doing}`}
      </span>
      <progress
        className="progress progress-primary h-1 w-24 shrink-0"
        aria-label={`How much of ${work.words} is done`}
        value={work.share || undefined}
        max={1}
      />
      <IconButton label={`Stop ${work.words}`} onClick={() => work.abort.abort()}>
        <X size={14} />
      </IconButton>
    </div>
  )
}
