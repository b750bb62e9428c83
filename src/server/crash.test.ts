import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { expect, it } from 'vitest'
import { openDatabase } from './database'
import { openFolio } from './testing/folios'

/**
 * A process that saves one revision after another and says each number once the save has been acknowledged.
 * It is killed in the middle of its work; what it had acknowledged must be there.
 */
async function saveUntilKilled(
  folder: string,
  killAfter: number,
): Promise<{ folioId: string; acknowledged: number }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'src/server/testing/saving-loop.ts', folder], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, KEEN_PLOT_DATA: folder },
  })
  let folioId = ''
  let acknowledged = 0
  const lines = createInterface({ input: child.stdout })
  lines.on('line', (line) => {
    const [word, value] = line.split(' ')
    if (word === 'folio') folioId = value
    else acknowledged = Number(value)
    // Not at a line's end but a moment later, when the next save is under way.
    if (acknowledged === killAfter) setTimeout(() => child.kill('SIGKILL'), 3)
  })
  await new Promise((resolve) => child.once('close', resolve))
  expect(child.signalCode).toBe('SIGKILL')
  return { folioId, acknowledged }
}

it('a kill in the middle of saving loses nothing that was acknowledged', async () => {
  for (const killAfter of [5, 23, 60]) {
    const folder = mkdtempSync(path.join(tmpdir(), 'keen-crash-'))
    try {
      const { folioId, acknowledged } = await saveUntilKilled(folder, killAfter)
      expect(acknowledged).toBeGreaterThanOrEqual(killAfter)
      const db = await openDatabase(folder)
      const { folio, revision } = await openFolio(db, folioId)
      // The save under way may have been written before its acknowledgement could be.
      expect([acknowledged, acknowledged + 1]).toContain(revision)
      expect(folio.author).toBe(`revision ${revision}`)
      const latest = await db.revisions.max('number', { where: { folioId } })
      expect(latest).toBe(revision)
      await db.sequelize.close()
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  }
})
