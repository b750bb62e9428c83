// Everything that must hold before a change lands, in the order of how fast it fails.
import { run, step } from './lib.mjs'

const started = Date.now()
const stages = [
  ['Checking types', 'npx', ['tsc', '--noEmit']],
  ['Checking the layout of code', 'npm', ['run', '-s', 'format:check']],
  ['Checking style', 'npm', ['run', '-s', 'lint']],
  ['Checking the arrows between folders', 'npm', ['run', '-s', 'layers']],
  ['Running unit tests', 'npx', ['vitest', 'run']],
  ['Bringing in damaged files', 'npm', ['run', '-s', 'fuzz']],
  ['Building the application', 'node', ['scripts/build.mjs']],
  ['Driving the application in Chromium', 'npx', ['playwright', 'test']],
]
for (const [words, command, args] of stages) {
  step(words)
  run(command, args)
}
step(`All passed in ${Math.round((Date.now() - started) / 1000)} s`)
