import { SaidError } from '@/core/said/said-error'
import {
  readTemplateAlone,
  readTemplateFile,
  type TemplateWithPictures,
} from '@/formats/template-file/template-file'
import { contentIdOf } from '../../content-id'
import { textExcess } from '../../json-bounds'

/**
 * Reads a template that was sent: as a file with its pictures, or (`bare`) the template alone.
 * @throws SaidError saying what is wrong with it
 */
export async function readTemplate({
  bytes,
  bare,
}: {
  bytes: Uint8Array
  bare: boolean
}): Promise<TemplateWithPictures> {
  const excess = textExcess(bytes)
  if (excess) throw new SaidError(`This is no template: ${excess}.`)
  const text = new TextDecoder().decode(bytes)
  const read = bare ? { template: readTemplateAlone(text), pictures: new Map() } : readTemplateFile(text)
  for (const [id, picture] of read.pictures)
    if (contentIdOf(picture) !== id) throw new SaidError('A picture in it is another one than it says.')
  return read
}
