import { spawn } from 'node:child_process'
import { createServer } from 'node:net'

/**
 * What the application is started with: it folds its database itself when it is told to end, and answers do not wait
 * for one of four threads (the default) that all wait for a busy disk.
 */
export const serverEnvironment = { NEXT_MANUAL_SIG_HANDLE: '1', UV_THREADPOOL_SIZE: '16' }

/** Starts the built application on a free port with a data folder of its own. */
export async function startServer(dataFolder, environment = {}) {
  const at = await freePort()
  const child = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '--hostname', '127.0.0.1', '--port', String(at)],
    {
      env: {
        ...process.env,
        KEEN_PLOT_DATA: dataFolder,
        NEXT_TELEMETRY_DISABLED: '1',
        ...serverEnvironment,
        ...environment,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  )
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (piece) => (said += piece))
  const url = `http://localhost:${at}`
  for (let i = 0; i < 150; i++) {
    if (child.exitCode !== null) throw new Error(`The server stopped:\n${said.slice(-1500)}`)
    try {
      const response = await fetch(`${url}/api/backups`)
      if (response.status < 500) return { url, child, said: () => said, stop: () => stop(child) }
    } catch {
      // not listening yet
    }
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  await stop(child)
  throw new Error(`The server did not answer:\n${said.slice(-1500)}`)
}

function stop(child, signal = 'SIGTERM') {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve()
  return new Promise((resolve) => {
    child.once('exit', resolve)
    child.kill(signal)
  })
}

function freePort() {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address()
      probe.close(() => resolve(port))
    })
  })
}
