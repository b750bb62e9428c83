import type { PictureContent, PictureEntry, Pictures } from '@/core/sheet/picture'
import { readDrawing } from '../drawing/read'

/** What a stored picture is drawn from: the bytes of a bitmap as they are, the shapes of a drawing. */
export function openPicture(
  { type, name }: Pick<PictureEntry, 'type' | 'name'>,
  bytes: Uint8Array,
): PictureContent {
  if (type !== 'image/svg+xml') return { kind: 'bitmap', mime: type, bytes }
  const { box, nodes } = readDrawing(new TextDecoder().decode(bytes), name)
  return { kind: 'drawing', box, nodes }
}

/** The pictures of a folio, each opened once, when it is first wanted. */
export function openedPictures(
  entries: readonly PictureEntry[],
  bytesOf: (id: string) => Uint8Array | null,
): Pictures {
  const opened = new Map<string, PictureContent | null>()
  return (id) => {
    const known = opened.get(id)
    if (known !== undefined) return known
    const entry = entries.find((one) => one.id === id)
    const bytes = entry ? bytesOf(id) : null
    const made = entry && bytes ? openPicture(entry, bytes) : null
    opened.set(id, made)
    return made
  }
}
