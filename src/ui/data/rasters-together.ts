import { besideEndings, imageEndings } from '@/formats/raster/world-file'

const isImage = ({ name }: { name: string }): boolean =>
  imageEndings.some((ending) => name.toLowerCase().endsWith(`.${ending}`))
const isBeside = ({ name }: { name: string }): boolean =>
  besideEndings.some((ending) => name.toLowerCase().endsWith(`.${ending}`))

/** Larger ones are sent one by one: an archive is taken in whole. */
const mostBytes = 900 * 1024 * 1024

/**
 * Files of one drop: those that are read each by itself, and pictures of the ground that came together, with their
 * world files and systems, which are read as one.
 */
export function sorted<F extends { name: string; size: number }>(files: F[]): { alone: F[]; ofGround: F[] } {
  const images = files.filter(isImage)
  const ofGround = files.filter((file) => isImage(file) || isBeside(file))
  const bytes = ofGround.reduce((sum, { size }) => sum + size, 0)
  const together = images.length > 0 && ofGround.length > 1 && bytes <= mostBytes
  return together
    ? { alone: files.filter((file) => !ofGround.includes(file)), ofGround }
    : { alone: files, ofGround: [] }
}

/** What several files are called together: what their names begin with alike, or the name of the first picture. */
export function archiveName(files: { name: string }[]): string {
  const stems = files.filter(isImage).map(({ name }) => name.replace(/\.[^.]*$/, ''))
  let length = 0
  while (length < stems[0].length && stems.every((stem) => stem[length] === stems[0][length])) length++
  const common = stems[0].slice(0, length).replace(/[^\p{L}\p{N}]+$/u, '')
  return `${common.length >= 3 ? common : stems[0]}.zip`
}

/** The files of one drop as they are sent: pictures of the ground that came together as one archive. */
export async function filesToSend(files: File[]): Promise<File[]> {
  const { alone, ofGround } = sorted(files)
  return ofGround.length ? [...alone, await packedTogether(ofGround, archiveName(ofGround))] : alone
}

/** Files as one archive, unpacked as they are. */
export async function packedTogether(files: File[], name: string): Promise<File> {
  const { zipSync } = await import('fflate')
  const entries = await Promise.all(
    files.map(async (file) => [file.name, new Uint8Array(await file.arrayBuffer())] as const),
  )
  const bytes = zipSync(Object.fromEntries(entries), { level: 0 })
  return new File([bytes as Uint8Array<ArrayBuffer>], name, { type: 'application/zip' })
}
