// Does to a server of its own what somebody, or a program, could do to it, for so long: it must live, answer somebody
// else throughout, and be at the end as it was after the first round: memory, descriptors, files, rows, processes.
//   node scripts/siege/run.mjs [--minutes 5] [--only NAME] [--seed 7]
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { besieged, chances, pause } from './besieged.mjs'
import { prepared, scenarios } from './scenarios.mjs'

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '5' },
    only: { type: 'string' },
    seed: { type: 'string', default: '7' },
  },
})
const data = mkdtempSync(path.join(tmpdir(), 'keen-siege-'))
const server = await besieged(data)
process.on('uncaughtException', (error) => {
  console.error(error)
  server.child.kill('SIGKILL')
  process.exit(1)
})
const faults = new Map()
const check = (holds, words) => holds || faults.set(words, (faults.get(words) ?? 0) + 1)
const chosen = scenarios.filter(({ name }) => !values.only || name.includes(values.only))
const things = await prepared(server)
const chance = chances(Number(values.seed))

// Somebody else works in another window all the while, alone at first.
const answers = []
let doing = 'nothing'
let besieging = true
const somebodyElse = (async () => {
  while (besieging) {
    const began = performance.now()
    const response = await server.ask('GET', `/api/folios/${things.folio.id}/revisions`).catch(() => null)
    check(response?.ok, 'The server did not answer somebody else.')
    await response?.arrayBuffer()
    answers.push({ ms: performance.now() - began, beside: doing })
    await pause(50)
  }
})()
await pause(5000)

const filesIn = (folder) =>
  readdirSync(folder, { withFileTypes: true }).reduce(
    (sum, one) => sum + (one.isDirectory() ? filesIn(path.join(folder, one.name)) : 1),
    0,
  )
const state = () => ({
  memory: Math.round(server.rss()),
  descriptors: server.descriptors(),
  files: filesIn(data),
  processes: server.tasks().length,
})

const began = performance.now()
const minutes = () => (performance.now() - began) / 60_000
const rounds = new Map()
let [first, round] = [null, 0]
do {
  for (const { name, run } of chosen) {
    doing = name
    const times = name.startsWith('saves') ? 1 : 10
    for (let i = 0; i < times; i++)
      await run(server, things, { chance, check, note: (words) => round === 0 && console.log(words) })
    rounds.set(name, (rounds.get(name) ?? 0) + times)
    if (round === 0) console.log(`${minutes().toFixed(1)} min: ${times} × ${name}`)
  }
  doing = 'nothing'
  await pause(1000)
  round++
  // The first rounds fill memories that have bounds of their own.
  if (round === 3 || !first) first = state()
  console.log(`round ${round}, ${minutes().toFixed(1)} min: ${JSON.stringify(state())}`)
} while (minutes() < Number(values.minutes))

const last = state()
besieging = false
await somebodyElse
for (const [name, times] of rounds) {
  const beside = answers.filter((answer) => answer.beside === name).map(({ ms }) => ms)
  const slowest = Math.max(0, ...beside)
  console.log(`${name.padEnd(40)} ${times} times; the slowest answer beside it ${slowest.toFixed(0)} ms`)
  check(slowest < 500, `Beside ${name} somebody else waited ${Math.round(slowest / 100) / 10} s.`)
}
const sorted = answers.map(({ ms }) => ms).sort((a, b) => a - b)
const alone = answers.filter(({ beside }) => beside === 'nothing').map(({ ms }) => ms)
console.log(
  `Somebody else was answered ${sorted.length} times: half within ${sorted[sorted.length >> 1].toFixed(0)} ms, 99 of 100 within ${sorted[Math.floor(sorted.length * 0.99)].toFixed(0)} ms, the slowest after ${sorted.at(-1).toFixed(0)} ms (alone ${Math.max(...alone).toFixed(0)} ms).`,
)
check(Math.max(...alone) < 200, 'Somebody else waited for more than 200 ms although nothing was done.')
console.log(`After the first rounds ${JSON.stringify(first)}, at the end ${JSON.stringify(last)}.`)
check(last.memory < 1.3 * first.memory + 50, 'The memory of the server has grown.')
check(last.descriptors < first.descriptors + 20, 'The server holds more files open.')
check(last.processes <= 8, `Processes are left: ${last.processes}.`)
check(server.leftovers().length === 0, `Files are left: ${server.leftovers().join(', ')}.`)
const own = server.tasks()
await server.stop()
await pause(2000)
const outliving = own.filter((pid) => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
})
check(outliving.length === 0, `${outliving.length} processes outlive the server.`)
rmSync(data, { recursive: true, force: true })
for (const [words, times] of faults) console.error(`✗ ${words} (${times} times)`)
console.log(faults.size ? 'The server did not hold.' : 'The server held.')
process.exit(faults.size ? 1 : 0)
