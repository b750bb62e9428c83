import { existsSync } from 'node:fs'
import { readdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import type { SheetTemplate } from '@/core/sheet/template'
import { dataFolder } from './config'
import { pictureFilesOf, storePicture } from './pictures'
import { notFound, Problem } from './problem'
import { carryOut } from './work/pool'
import { TaskFailure } from './work/protocol'
import { writeDurably } from './write-durably'

const placeOf = (id: string): string => path.join(dataFolder('templates'), `${id}.json`)

function knownPlace(id: string): string {
  if (!/^[\w-]{1,60}$/.test(id) || !existsSync(placeOf(id))) throw notFound('template')
  return placeOf(id)
}

const readAll = (files: string[]): Promise<SheetTemplate[]> =>
  carryOut('readTemplates', { files }, {}, async (read) => read)

async function read(id: string): Promise<SheetTemplate> {
  const [template] = await readAll([knownPlace(id)])
  if (!template) throw notFound('template')
  return template
}

/** The templates that were kept here, by name. One that an older version kept and that cannot be read is left out. */
export async function listTemplates(): Promise<SheetTemplate[]> {
  const names = (await readdir(dataFolder('templates'))).filter((name) => name.endsWith('.json'))
  if (!names.length) return []
  const all = await readAll(names.map((name) => path.join(dataFolder('templates'), name)))
  return all.sort((a, b) => a.name.localeCompare(b.name, 'en'))
}

/** Keeps a template, or puts it in place of the one with its id. */
export async function keepTemplate(template: SheetTemplate): Promise<SheetTemplate> {
  await writeDurably(placeOf(template.id), new TextEncoder().encode(JSON.stringify(template)))
  return template
}

export async function renameTemplate(id: string, name: string): Promise<SheetTemplate> {
  return keepTemplate({ ...(await read(id)), name })
}

export const deleteTemplate = (id: string): Promise<void> => rm(knownPlace(id))

/** A kept template as a file with its pictures, to be brought in elsewhere. */
export async function templateFile(id: string): Promise<{ name: string; text: string }> {
  const template = await read(id)
  const pictureFiles = pictureFilesOf(template.pictures.map((picture) => picture.id))
  const text = await carryOut('writeTemplate', { template, pictureFiles }, {}, async (written) => written)
  return { name: template.name, text }
}

/**
 * Brings a template in from a file that was sent, under an id of its own where its own is taken by another one; or
 * (`bare`) keeps one that was sent alone, in place of the one with its id.
 * @throws Problem 422 saying what is wrong with it
 */
export async function bringInTemplate(
  bytes: Uint8Array,
  { newId, bare = false, signal }: { newId: () => string; bare?: boolean; signal?: AbortSignal },
): Promise<SheetTemplate> {
  let found
  try {
    found = await carryOut('readTemplate', { bytes, bare }, { signal }, async (read) => read)
  } catch (error) {
    if (error instanceof TaskFailure)
      throw new Problem(422, 'This template cannot be brought in', error.message)
    throw error
  }
  const { template, pictures } = found
  for (const [id, picture] of pictures) await storePicture(id, picture)
  return keepTemplate(!bare && existsSync(placeOf(template.id)) ? { ...template, id: newId() } : template)
}

/** What the stored templates say, for whoever looks what pictures are in use. */
export async function templateTexts(): Promise<string[]> {
  const names = await readdir(dataFolder('templates'))
  return Promise.all(names.map((name) => readFile(path.join(dataFolder('templates'), name), 'utf8')))
}
