import { createRequire } from 'node:module'
// Builds the application: the program of the processes that do long work, then the pages.
import { readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'
import { run, step } from './lib.mjs'

/** Lists that packages hold as JSON go into the bundle: imported from outside they would need a sign of their type. */
export const listsOfPackages = {
  name: 'lists of packages',
  setup: ({ onResolve }) =>
    onResolve({ filter: /^[^./].*\.json$/ }, ({ path: name }) => ({
      path: createRequire(import.meta.url).resolve(name),
    })),
}

/** The program of the processes in which long or dangerous work is done. */
export async function buildTaskProcess() {
  await build({
    entryPoints: ['src/server/work/process.ts'],
    outfile: 'dist/task-process.mjs',
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    plugins: [listsOfPackages],
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
      '@sqlite.org/sqlite-wasm',
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
  step('Bundling the task process and the command line')
  await Promise.all([buildTaskProcess(), buildCli()])
  if (!process.argv.includes('--processes-only')) {
    step('Building the application')
    run('npx', ['next', 'build'])
  }
}
