import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { startServer, type Server } from '../scripts/serve.mjs'

/** Runs a server of its own for the length of some work. */
export async function withServer(
  environment: Record<string, string>,
  work: (server: Server, data: string) => Promise<void>,
): Promise<void> {
  const data = mkdtempSync(path.join(tmpdir(), 'keen-door-'))
  const server = await startServer(data, environment)
  try {
    await work(server, data)
  } catch (error) {
    // What the server said of it is what explains most.
    console.error(server.said().slice(-3000))
    throw error
  } finally {
    await server.stop()
    rmSync(data, { recursive: true, force: true, maxRetries: 5 })
  }
}
