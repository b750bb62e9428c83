import { readFile } from 'node:fs/promises'
import { SheetTemplate } from '@/core/sheet/template'
import { writeTemplateFile } from '@/formats/template-file/template-file'

/** Templates as they were kept; those that cannot be read are left out. */
export async function readTemplates({ files }: { files: string[] }): Promise<SheetTemplate[]> {
  const all = await Promise.all(
    files.map(async (file) => {
      try {
        return SheetTemplate.parse(JSON.parse(await readFile(file, 'utf8')))
      } catch {
        return null
      }
    }),
  )
  return all.filter((one) => one !== null)
}

/** A template as the text of a file, with its pictures, which lie in files by their ids. */
export async function writeTemplate({
  template,
  pictureFiles,
}: {
  template: SheetTemplate
  pictureFiles: Record<string, string>
}): Promise<string> {
  const pictures = await Promise.all(
    Object.entries(pictureFiles).map(
      async ([id, file]) => [id, new Uint8Array(await readFile(file))] as const,
    ),
  )
  return writeTemplateFile({ template, pictures: new Map(pictures) })
}
