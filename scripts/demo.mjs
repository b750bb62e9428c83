// Serves the demo: builds what is not built, then starts the server. The shelf opens with the demo on it.
import { existsSync } from 'node:fs'
import { run, step } from './lib.mjs'

if (!existsSync('.next/BUILD_ID') || !existsSync('dist/job-worker.mjs')) run('node', ['scripts/build.mjs'])
const port = process.env.PORT ?? '3000'
step(`Keen Plot is at http://localhost:${port}`)
run('npx', ['next', 'start', '--hostname', '127.0.0.1', '--port', port])
