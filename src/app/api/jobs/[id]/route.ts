import { cancelJob, watchJob, type JobState } from '@/server/jobs/jobs'
import { route } from '@/server/guard'
import { notFound } from '@/server/problem'

/** Server-sent events: one for each state of the job, until it has ended. */
export const GET = route(async (request, { id }) => {
  let stop: (() => void) | null = null
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      let open = true
      const close = () => {
        if (open) controller.close()
        open = false
        stop?.()
      }
      const listen = (state: JobState) => {
        if (!open) return
        controller.enqueue(new TextEncoder().encode(`data: ${JSON.stringify(state)}\n\n`))
        if (state.status !== 'running' && state.status !== 'waiting') close()
      }
      stop = watchJob(id, listen)
      if (!stop) listen({ status: 'failed', message: notFound('job').title })
      request.signal.addEventListener('abort', close)
    },
    cancel: () => stop?.(),
  })
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  })
})

export const DELETE = route(async (_, { id }) => {
  if (!(await cancelJob(id))) throw notFound('job')
  return new Response(null, { status: 204 })
})
