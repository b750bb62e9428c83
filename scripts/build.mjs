// Builds the application: the program of the processes that do long work, then the pages.
import { readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'
import { run, step } from './lib.mjs'

/**
 * A program in pieces, so that what a piece of work does not need is not loaded, with the packages that it uses read
 * at one go. Pieces of before go.
 */
export async function buildInPieces(entryPoint, outdir) {
  const root = path.resolve(import.meta.dirname, '..')
  const { metafile } = await build({
    absWorkingDir: root,
    metafile: true,
    entryPoints: [entryPoint],
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    // Native modules and those that read files of their own stay outside.
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
  const made = new Set(Object.keys(metafile.outputs).map((file) => path.basename(file)))
  for (const name of readdirSync(path.join(root, outdir)))
    if (!made.has(name)) rmSync(path.join(root, outdir, name))
}

/** The program of the processes in which long or dangerous work is done. */
export const buildTaskProcess = () => buildInPieces('src/server/work/process.ts', 'dist/tasks')

/** The command line. */
export const buildCli = () => buildInPieces('src/cli/main.ts', 'dist/keen')

if (import.meta.filename === process.argv[1]) {
  step('Bundling the task process and the command line')
  await Promise.all([buildTaskProcess(), buildCli()])
  if (!process.argv.includes('--processes-only')) {
    step('Making the relief of the demo')
    run('npx', ['tsx', 'demo/make-whole.ts'])
    step('Building the application')
    run('npx', ['next', 'build'])
  }
}
