import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openDemo } from '../../demo/open'
import { pictureOf } from '@/core/sheet/parts/picture'
import { makePart } from '@/core/sheet/registry'
import { templateOf } from '@/core/sheet/template'
import { keepPicture } from './pictures'
import {
  bringInTemplate,
  deleteTemplate,
  keepTemplate,
  listTemplates,
  renameTemplate,
  templateFile,
  templateTexts,
} from './templates'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-templates-'))
const before = process.env.KEEN_PLOT_DATA
beforeAll(() => void (process.env.KEEN_PLOT_DATA = folder))
afterAll(() => {
  process.env.KEEN_PLOT_DATA = before
  rmSync(folder, { recursive: true })
})

const { folio } = openDemo()
const [sheet] = folio.sheets
const made = (id: string, name: string) => templateOf(sheet, folio, { id, name, about: '' })
const withPicture = async (id: string) => {
  const { entry } = await keepPicture(
    'leaf.png',
    await sharp({ create: { width: 9, height: 9, channels: 3, background: '#5b8c5a' } })
      .png()
      .toBuffer(),
  )
  const part = makePart(
    'picture',
    { id: 'p', name: 'Leaf', box: { x: 1, y: 1, width: 9, height: 9 } },
    pictureOf(entry),
  )
  return templateOf(
    { ...sheet, parts: [...sheet.parts, part] },
    { ...folio, pictures: [entry] },
    { id, name: 'With a leaf', about: '' },
  )
}

const bringIn = (text: string, newId: () => string) =>
  bringInTemplate(new TextEncoder().encode(text), { newId })

describe('templates on the server', () => {
  it('are kept, listed by name, renamed and deleted', async () => {
    await keepTemplate(made('b', 'Second'))
    await keepTemplate(made('a', 'first'))
    expect((await listTemplates()).map(({ name }) => name)).toEqual(['first', 'Second'])
    await renameTemplate('b', 'Another')
    expect((await listTemplates()).map(({ name }) => name)).toEqual(['Another', 'first'])
    expect(await templateTexts()).toHaveLength(2)
    await deleteTemplate('a')
    expect((await listTemplates()).map(({ id }) => id)).toEqual(['b'])
  })

  it('are not there under a name that leads elsewhere', async () => {
    await expect(renameTemplate('../b', 'x')).rejects.toMatchObject({ status: 404 })
    expect(() => deleteTemplate('nothing')).toThrow()
  })

  it('go through a file with their pictures, under an id of their own where theirs is taken', async () => {
    const template = await keepTemplate(await withPicture('leafy'))
    const { name, text } = await templateFile('leafy')
    expect(name).toBe('With a leaf')
    const again = await bringIn(text, () => 'own')
    expect(again).toEqual({ ...template, id: 'own' })
    await deleteTemplate('leafy')
    expect((await bringIn(text, () => 'never')).id).toBe('leafy')
  })

  it('are refused where a picture is another one than it says, or the file is none', async () => {
    const { text } = await templateFile('leafy')
    const other = Buffer.from('other bytes').toString('base64')
    const file = JSON.parse(text) as { pictures: Record<string, string> }
    const [id] = Object.keys(file.pictures)
    file.pictures[id] = other
    await expect(bringIn(JSON.stringify(file), () => 'x')).rejects.toMatchObject({ status: 422 })
    await expect(bringIn('{"format":"keen-folio"}', () => 'x')).rejects.toMatchObject({ status: 422 })
  })

  it('that cannot be read any more do not keep the others from being listed', async () => {
    writeFileSync(path.join(folder, 'templates', 'broken.json'), '{"format":"keen-template"')
    expect((await listTemplates()).map(({ id }) => id)).toContain('leafy')
  })
})
