// Builds the application: the worker that does long jobs, then the pages.
import { readdirSync, rmSync } from 'node:fs'
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

/** The command line in pieces, so that what a command does not need is not loaded. Pieces of before go. */
export async function buildCli() {
  const root = path.resolve(import.meta.dirname, '..')
  const { metafile } = await build({
    absWorkingDir: root,
    metafile: true,
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
  const folder = path.join(root, 'dist', 'keen')
  const made = new Set(Object.keys(metafile.outputs).map((file) => path.basename(file)))
  for (const name of readdirSync(folder)) if (!made.has(name)) rmSync(path.join(folder, name))
}

if (import.meta.filename === process.argv[1]) {
  step('Bundling the job worker and the command line')
  await Promise.all([buildJobWorker(), buildCli()])
  if (!process.argv.includes('--worker-only')) {
    step('Building the application')
    run('npx', ['next', 'build'])
  }
}
