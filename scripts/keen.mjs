// The command line, from a bundle that is made at first use and whenever the sources have changed since.
import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs'
import path from 'node:path'
import { pathToFileURL } from 'node:url'

const root = path.resolve(import.meta.dirname, '..')
const bundle = path.join(root, 'dist', 'keen', 'main.mjs')

/** Whether a file of a folder is newer than a time. */
const newerIn = (folder, time) =>
  readdirSync(folder, { withFileTypes: true, recursive: true }).some(
    (entry) =>
      entry.isFile() && statSync(path.join(entry.parentPath ?? entry.path, entry.name)).mtimeMs > time,
  )

const made = existsSync(bundle) ? statSync(bundle).mtimeMs : 0
const stale =
  made === 0 ||
  ['src/cli', 'src/core', 'src/formats', 'src/render'].some((f) => newerIn(path.join(root, f), made))
if (stale) {
  mkdirSync(path.dirname(bundle), { recursive: true })
  const { buildCli } = await import('./build.mjs')
  await buildCli()
}
await import(pathToFileURL(bundle).href)
