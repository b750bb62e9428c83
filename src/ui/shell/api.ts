'use client'
import type { JobState } from '@/server/jobs/jobs'

/** What the server said when it refused something. */
export class ApiProblem extends Error {
  override name = 'ApiProblem'
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly more: Record<string, unknown>,
  ) {
    super(detail || title)
  }
}

/** @throws ApiProblem, also where the server cannot be reached (status 0). */
export async function api<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  const raw = body instanceof Blob
  let response: Response
  try {
    response = await fetch(path, {
      method,
      signal,
      body: raw || body === undefined ? body : JSON.stringify(body),
      headers: body === undefined ? {} : { 'content-type': raw ? typeOf(body) : 'application/json' },
    })
  } catch {
    signal?.throwIfAborted()
    throw new ApiProblem(
      0,
      'Keen Plot’s server cannot be reached',
      'Is it still running? Your work stays in this window.',
      {},
    )
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T
  const problem = (await response.json().catch(() => ({}))) as Record<string, unknown>
  throw new ApiProblem(
    response.status,
    String(problem.title ?? response.statusText),
    String(problem.detail ?? ''),
    problem,
  )
}

/** Pictures say what they are; files go as the bytes that they are. */
const typeOf = ({ type }: Blob): string => (type === 'image/png' ? type : 'application/octet-stream')

const waitingWords = (ahead: number): string =>
  ahead === 0 ? 'Waiting: next' : `Waiting: ${ahead} before this`

/** Follows a job to its end. Aborting the signal cancels the job. */
export function followJob<T>(
  jobId: string,
  onProgress: (share: number, doing: string) => void,
  signal?: AbortSignal,
  context: Record<string, unknown> = {},
): Promise<T> {
  return new Promise((resolve, reject) => {
    const events = new EventSource(`/api/jobs/${jobId}`)
    const stop = () => events.close()
    const cancel = () => void api('DELETE', `/api/jobs/${jobId}`).catch(() => undefined)
    // It may have been cancelled before the job had its name.
    if (signal?.aborted) cancel()
    else signal?.addEventListener('abort', cancel)
    events.onmessage = (event: MessageEvent<string>) => {
      const state = JSON.parse(event.data) as JobState
      if (state.status === 'waiting') return onProgress(0, waitingWords(state.ahead))
      if (state.status === 'running') return onProgress(state.share, state.doing)
      stop()
      if (state.status === 'done') resolve(state.result as T)
      else
        reject(
          state.status === 'cancelled'
            ? new DOMException('Cancelled', 'AbortError')
            : new ApiProblem(422, state.message, state.message, { ...context, asks: state.asks ?? null }),
        )
    }
    events.onerror = () => {
      if (events.readyState === EventSource.CLOSED)
        reject(new ApiProblem(0, 'The connection to the server broke', 'Try again.', {}))
    }
  })
}
