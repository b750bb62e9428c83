// Installs what is missing before anything else runs. Plain Node: nothing but Node itself may be there.
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { run, step, works } from './lib.mjs'

const [major, minor] = process.versions.node.split('.').map(Number)
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Keen Plot needs Node 20.19 or newer; this is ${process.versions.node}.`)
  process.exit(1)
}

const lock = 'package-lock.json'
const stamp = 'node_modules/.keen-installed'
const current = () => existsSync(stamp) && readFileSync(stamp, 'utf8') === String(statSync(lock).size)
if (!current()) {
  step('Installing packages (the database driver is compiled, which takes about three minutes)')
  run('npm', ['ci', '--no-audit', '--no-fund'])
  writeFileSync(stamp, String(statSync(lock).size))
}

if (process.argv.includes('--browser')) {
  const tools = {
    chromium: 'chromium',
    pdftoppm: 'poppler-utils',
    qpdf: 'qpdf',
    xmllint: 'libxml2-utils',
    ogr2ogr: 'gdal-bin',
  }
  const missing = Object.entries(tools)
    .filter(([tool]) => !works('which', [tool]))
    .map(([, name]) => name)
  if (missing.length && works('which', ['apt-get'])) {
    step(`Installing ${missing.join(', ')} for the tests`)
    const root = process.getuid?.() === 0 ? [] : ['sudo']
    const apt = (...args) =>
      run([...root, 'apt-get'][0], [...[...root, 'apt-get'].slice(1), ...args], {
        DEBIAN_FRONTEND: 'noninteractive',
      })
    apt('update')
    apt('install', '-y', '--no-install-recommends', ...missing)
  } else if (missing.length) {
    console.error(`The tests need ${missing.join(', ')}. Install them and run npm test again.`)
    process.exit(1)
  }
}
