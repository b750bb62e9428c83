/** Called once when the server starts: work that goes on beside the answers, and what is done at its end. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return
  const { startWatch, endWell } = await import('@/server/watch')
  startWatch()
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void endWell(signal))
}
