// Lets the disk run full at every step of saving, opening, importing, printing and backing up: what is refused is refused
// in words, what was acknowledged is there when there is room again, and nothing half. It mounts a small disk in memory,
// which takes the rights to do so.
//   sudo node scripts/siege/full-disk.mjs [--mb 160]
import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { besieged } from './besieged.mjs'
import { checked, ledger } from './ledger.mjs'

const { values } = parseArgs({ options: { mb: { type: 'string', default: '160' } } })
const data = mkdtempSync(path.join(tmpdir(), 'keen-full-'))
execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${values.mb}m`, 'tmpfs', data])
const faults = []
const fault = (words) => {
  faults.push(words)
  console.error(`✗ ${words}`)
}
const ballast = path.join(data, 'ballast')

/** Fills the disk but for so many kilobytes. */
function leave(kb) {
  rmSync(ballast, { force: true })
  const { bavail, bsize } = statfsSync(data)
  const bytes = bavail * bsize - kb * 1024
  if (bytes > 0) writeFileSync(ballast, Buffer.alloc(bytes))
}

let server
try {
  const { works, look, begin, counts } = ledger(data, fault)
  server = await besieged(data)
  await begin(server)
  for (const kb of [0, 4, 8, 16, 32, 64, 128, 256, 512, 1024, 2048, 4096, 8192, 16_384])
    for (const name of Object.keys(works)) {
      leave(kb)
      counts[name].tried++
      try {
        await works[name](server, name === 'saving' ? 3 : undefined)
      } catch (error) {
        if (!/disk is full|no room|disk-full/i.test(error.message))
          fault(`${name} with ${kb} kB free: ${error.message.slice(0, 300)}`)
      }
      // Reading goes on.
      const answer = await server.ask('GET', '/api/folios')
      if (!answer.ok) fault(`With ${kb} kB free the shelf answers ${answer.status}.`)
      rmSync(ballast, { force: true })
      await look(server)
      const left = server.leftovers().filter((file) => file.endsWith('.part'))
      if (left.length) fault(`${name} with ${kb} kB free left ${left.join(', ')}`)
    }
  for (const [name, { tried, acknowledged, unacknowledged }] of Object.entries(counts))
    console.log(
      `${name}: ${tried} disks, ${acknowledged} acknowledged, ${unacknowledged} carried out without an answer`,
    )
} finally {
  await server?.stop()
  const verdict = await checked(path.join(data, 'keen-plot.sqlite'))
  if (verdict !== 'ok') fault(`The database: ${verdict}`)
  execFileSync('umount', ['-l', data])
  rmSync(data, { recursive: true })
}
console.log(
  faults.length
    ? `${faults.length} faults.`
    : 'Nothing that was acknowledged is lost, nothing half is there.',
)
process.exit(faults.length ? 1 : 0)
