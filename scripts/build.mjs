// Builds the application: the worker that does long jobs, then the pages.
import path from 'node:path'
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

/** The command line in pieces, so that what a command does not need is not loaded. */
export async function buildCli() {
  await build({
    absWorkingDir: path.resolve(import.meta.dirname, '..'),
    entryPoints: ['src/cli/main.ts'],
    outdir: 'dist/keen',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // Native modules and those that read files of their own stay outside; the rest is read at one go.
    external: [
      'sqlite3',
      'sharp',
      '@napi-rs/canvas',
      'pdfkit',
      'exceljs',
      'geotiff',
      'epsg-index',
      'esbuild',
      'flatgeobuf',
      'shapefile',
    ],
    minify: true,
    keepNames: true,
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
    logLevel: 'warning',
  })
}

if (import.meta.filename === process.argv[1]) {
  step('Bundling the job worker and the command line')
  await Promise.all([buildJobWorker(), buildCli()])
  if (!process.argv.includes('--worker-only')) {
    step('Building the application')
    run('npx', ['next', 'build'])
  }
}
