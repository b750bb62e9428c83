import { z } from 'zod'
import { documentOf, type FolioDocument } from '@/core/folio/document'
import { readFolio } from '@/core/folio/schema'
import { issueWords } from '@/core/said/issue-words'
import { SaidError } from '@/core/said/said-error'
import { textExcess } from '../../json-bounds'

const Save = z.object({
  baseRevision: z.number().int().positive(),
  folio: z.unknown(),
  label: z.string().max(200),
  saveKey: z.string().max(60).optional(),
})

/**
 * Checks a save as it was sent: what it was made from, and the folio as it is stored under an id.
 * @throws SaidError, FolioError saying what is wrong with it
 */
export async function checkSave({
  id,
  bytes,
}: {
  id: string
  bytes: Uint8Array
}): Promise<FolioDocument & { baseRevision: number; label: string; saveKey?: string }> {
  const excess = textExcess(bytes)
  if (excess) throw new SaidError(`${excess.charAt(0).toUpperCase()}${excess.slice(1)}.`)
  let sent: unknown
  try {
    sent = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new SaidError('What was sent is not JSON.')
  }
  const parsed = Save.safeParse(sent)
  if (!parsed.success) throw new SaidError(`What was sent is no save: ${issueWords(parsed.error)}.`)
  const { folio: stored, ...marks } = parsed.data
  return { ...marks, ...documentOf(readFolio(stored), id) }
}
