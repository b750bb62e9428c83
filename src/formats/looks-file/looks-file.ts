import { z } from 'zod'
import { OwnRamp } from '@/core/colour/ramp'
import type { Looks } from '@/core/folio/looks'
import { issueWords } from '@/core/said/issue-words'
import { Hex } from '@/core/scene/hex'
import { NamedTypeStyle } from '@/core/sheet/type-style'
import { ImportError } from '../import-error'

const LooksFile = z.object({
  format: z.literal('keen-looks'),
  version: z.literal(1),
  typeStyles: z.array(NamedTypeStyle).max(500),
  colours: z.array(Hex).max(500),
  ramps: z.array(OwnRamp).max(500),
})

/** Type styles, colours and own ramps as a file, for other folios. */
export const writeLooks = (looks: Looks): string =>
  `${JSON.stringify(LooksFile.parse({ format: 'keen-looks', version: 1, ...looks }), null, 2)}\n`

/**
 * Reads type styles, colours and ramps from a file.
 * @throws ImportError saying what is wrong with it.
 */
export function readLooks(text: string, fileName: string): Looks {
  let stored: unknown
  try {
    stored = JSON.parse(text)
  } catch {
    throw new ImportError(`${fileName} is no file of type styles and colours: it is not complete JSON.`)
  }
  const result = LooksFile.safeParse(stored)
  if (!result.success)
    throw new ImportError(
      `${fileName} is no file of type styles and colours that can be read: ${issueWords(result.error)}.`,
    )
  const { typeStyles, colours, ramps } = result.data
  return { typeStyles, colours, ramps }
}
