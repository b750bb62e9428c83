// Serves the demo: builds what is not built, then starts the server. The shelf opens with the demo on it.
import { existsSync, readdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { run, step } from './lib.mjs'
import { serverEnvironment } from './serve.mjs'

/** The time of the latest change in a folder. */
const latest = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile())
      .map((entry) => statSync(path.join(entry.parentPath ?? entry.path, entry.name)).mtimeMs),
  )
const built =
  existsSync('.next/BUILD_ID') && existsSync('dist/tasks/process.mjs')
    ? statSync('.next/BUILD_ID').mtimeMs
    : 0
if (built < Math.max(latest('src'), statSync('package-lock.json').mtimeMs)) run('node', ['scripts/build.mjs'])
const port = process.env.PORT ?? '3000'
const address = process.env.KEEN_PLOT_LISTEN ?? '127.0.0.1'
const isLoopback = /^(localhost|127\.\d+\.\d+\.\d+|::1)$/.test(address)
if (!isLoopback && !process.env.KEEN_PLOT_SECRET?.trim()) {
  console.error(
    `On ${address} others could reach this server. Set KEEN_PLOT_SECRET to a word that your team shares; docs/security.md says more.`,
  )
  process.exit(1)
}
step(`Keen Plot is at http://${isLoopback ? 'localhost' : address}:${port}`)
run('npx', ['next', 'start', '--hostname', address, '--port', port], serverEnvironment)
