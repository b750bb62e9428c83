import { z } from 'zod'
import { documentOf, type FolioDocument } from '@/core/folio/document'
import { readFolio } from '@/core/folio/schema'
import { issueWords } from '@/core/said/issue-words'
import { SaidError } from '@/core/said/said-error'
import { isTooDeep, maxDepth } from '../../json-depth'

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
  if (isTooDeep(bytes)) throw new SaidError(`It is nested more than ${maxDepth} levels deep.`)
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
