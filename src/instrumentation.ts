/** Called once when the server starts: work that goes on beside the answers, and what is done at its end. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME === 'nodejs') (await import('@/server/watch')).startWatch()
}
