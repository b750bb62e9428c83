import { z } from 'zod'
import { SheetTemplate } from '@/core/sheet/template'
import { fromBase64, toBase64 } from '../base64'
import { ImportError } from '../import-error'
import { ownFiles } from '../limits'
import { readOwn } from '../own-file'

const TemplateFile = z.object({
  format: z.literal('keen-template-file'),
  version: z.literal(1),
  template: SheetTemplate,
  /** The bytes of its pictures in Base64, by id. */
  pictures: z.record(z.string(), z.string()).default({}),
})

export type TemplateWithPictures = { template: SheetTemplate; pictures: Map<string, Uint8Array> }

/** A template with its pictures as one JSON text. */
export function writeTemplateFile({ template, pictures }: TemplateWithPictures): string {
  const held = Object.fromEntries([...pictures].map(([id, bytes]) => [id, toBase64(bytes)]))
  const file = { format: 'keen-template-file', version: 1, template, pictures: held }
  return `${JSON.stringify(TemplateFile.parse(file))}\n`
}

/**
 * Reads a template from a file.
 * @throws ImportError saying what is wrong with it.
 */
export function readTemplateFile(text: string): TemplateWithPictures {
  const { template, pictures } = readAs(TemplateFile, text)
  const lost = template.pictures.find(({ id }) => !(id in pictures))
  if (lost) throw new ImportError(`The template does not hold its picture “${lost.name}”.`)
  try {
    return {
      template,
      pictures: new Map(Object.entries(pictures).map(([id, packed]) => [id, fromBase64(packed)])),
    }
  } catch {
    throw new ImportError('This template is damaged: a picture in it cannot be read.')
  }
}

/**
 * Reads a template that is sent alone, without its pictures.
 * @throws ImportError saying what is wrong with it.
 */
export const readTemplateAlone = (text: string): SheetTemplate => readAs(SheetTemplate, text)

const readAs = <T>(schema: z.ZodType<T>, text: string): T =>
  readOwn(schema, text, { none: 'This is no template', mostBytes: ownFiles.template })
