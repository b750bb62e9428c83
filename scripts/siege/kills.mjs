// Kills the server again and again in the midst of saving, opening, importing, printing and backing up: after each
// restart everything that it had acknowledged must be there, and nothing half.
//   node scripts/siege/kills.mjs [--kills 1000] [--seed 7]
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { besieged, chances, pause } from './besieged.mjs'
import { checked, ledger } from './ledger.mjs'

const { values } = parseArgs({
  options: { kills: { type: 'string', default: '1000' }, seed: { type: 'string', default: '7' } },
})
const kills = Number(values.kills)
const chance = chances(Number(values.seed))
const data = mkdtempSync(path.join(tmpdir(), 'keen-kills-'))
const faults = []
const fault = (words) => {
  faults.push(words)
  console.error(`✗ ${words}`)
}

const began = performance.now()
const minutes = () => ((performance.now() - began) / 60_000).toFixed(1)
const { works, look, begin, counts } = ledger(data, fault)
let server = await besieged(data)
await begin(server)
/** How long each work takes when nobody disturbs it: the kill falls somewhere within. */
const takes = { saving: 2500, opening: 3500, importing: 2500, printing: 3500, 'backing up': 300 }

for (let round = 0; round < kills; round++) {
  const name = Object.keys(works)[round % Object.keys(works).length]
  counts[name].tried++
  let killed = false
  const work = works[name](server).catch((error) => {
    if (!killed) fault(`${name} failed before any kill: ${error.message}`)
  })
  await pause(chance() * takes[name])
  killed = true
  server.child.kill('SIGKILL')
  await work
  server = await besieged(data)
  try {
    await look(server)
  } catch (error) {
    fault(`After kill ${round + 1} (${name}): ${error.message}`)
  }
  if ((round + 1) % 50 === 0) console.log(`${round + 1} kills, ${minutes()} min: ${JSON.stringify(counts)}`)
}

// What was under way when a server died is cleared away by the next one, once it is known to be dead.
await pause(30_000)
const left = server.leftovers().filter((file) => file.endsWith('.part'))
await server.stop()
const verdict = await checked(path.join(data, 'keen-plot.sqlite'))
if (verdict !== 'ok') fault(`The database: ${verdict}`)
console.log(`${kills} kills in ${minutes()} min; drafts left: ${left.length}`)
for (const [name, { tried, acknowledged, unacknowledged }] of Object.entries(counts))
  console.log(
    `${name}: killed ${tried} times, ${acknowledged} acknowledged, ${unacknowledged} carried out without an answer`,
  )
console.log(
  faults.length
    ? `${faults.length} faults.`
    : 'Nothing that was acknowledged is lost, nothing half is there.',
)
rmSync(data, { recursive: true, force: true })
process.exit(faults.length ? 1 : 0)
