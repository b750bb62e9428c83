import { describe, expect, it } from 'vitest'
import { documentPrint } from '@/core/folio/schema-print'
import { folioVersion } from '@/core/folio/schema-print'
import { schemaPrints } from '@/core/folio/schema-print'
import { archived, archivedFile, difference, openArchived } from './archive'
import { drawn } from './draw'

/** Several prints under one number are history: from this version on a number is never amended. */
const firstFixed = 14

describe('the prints that have landed', () => {
  it('are all archived, the newest too', () => {
    for (const [version, print] of Object.entries(schemaPrints))
      expect(archived, `version ${version}`).toContainEqual(
        expect.objectContaining({ version: Number(version), print }),
      )
    expect(archived.at(-1)).toMatchObject({ version: folioVersion, print: documentPrint })
  })

  it('stand one to a number, which is never amended', () => {
    for (let version = firstFixed; version <= folioVersion; version++)
      expect(archived.filter((one) => one.version === version)).toHaveLength(1)
  })
})

describe.each(archived)('a folio of version $version, $print', (one) => {
  const { folio: stored } = JSON.parse(archivedFile(one)) as { folio: Record<string, { name: string }[]> }
  const open = openArchived(one)

  it('opens with all its maps, sheets and datasets', () => {
    expect(open.folio.version).toBe(folioVersion)
    for (const list of ['datasets', 'maps', 'sheets'] as const)
      expect(open.folio[list].map(({ name }) => name)).toEqual(stored[list].map(({ name }) => name))
    const parts = (sheets: unknown) => (sheets as { parts: { type: string }[] }[]).map((sheet) => sheet.parts)
    expect(parts(open.folio.sheets).map((all) => all.map(({ type }) => type))).toEqual(
      parts(stored.sheets).map((all) => all.map(({ type }) => type)),
    )
  })

  // Each draws one of its three; all are compared by `npm run archived`.
  const ids = Object.keys(one.sheets)
  const id = ids[archived.indexOf(one) % ids.length]
  it(`draws ${id} as it did, but for what is known to differ`, async () => {
    const differs = await difference(one, id, await drawn(open, id))
    expect(Math.abs(differs - one.differs[id])).toBeLessThan(0.3)
  })
})
