// Builds the application: the worker that does long jobs, then the pages.
import { build } from 'esbuild'
import { run, step } from './lib.mjs'

export async function buildJobWorker() {
  await build({
    entryPoints: ['src/server/jobs/worker.ts'],
    outfile: 'dist/job-worker.mjs',
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'warning',
  })
}

if (import.meta.filename === process.argv[1]) {
  step('Bundling the job worker')
  await buildJobWorker()
  if (!process.argv.includes('--worker-only')) {
    step('Building the application')
    run('npx', ['next', 'build'])
  }
}
