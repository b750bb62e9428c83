// Serves the demo: builds what is not built, then starts the server. The shelf opens with the demo on it.
import { existsSync, readdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { run, step } from './lib.mjs'

/** The time of the latest change in a folder. */
const latest = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile())
      .map((entry) => statSync(path.join(entry.parentPath ?? entry.path, entry.name)).mtimeMs),
  )
const built =
  existsSync('.next/BUILD_ID') && existsSync('dist/task-process.mjs') ? statSync('.next/BUILD_ID').mtimeMs : 0
if (built < Math.max(latest('src'), statSync('package-lock.json').mtimeMs)) run('node', ['scripts/build.mjs'])
const port = process.env.PORT ?? '3000'
step(`Keen Plot is at http://localhost:${port}`)
run('npx', ['next', 'start', '--hostname', '127.0.0.1', '--port', port])
