import { z } from 'zod'
import { OwnRamp } from '@/core/colour/ramp'
import type { Looks } from '@/core/folio/looks'
import { Hex } from '@/core/scene/hex'
import { NamedTypeStyle } from '@/core/sheet/type-style'
import { readOwn } from '../own-file'

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
  const none = `${fileName} is no file of type styles and colours`
  const { typeStyles, colours, ramps } = readOwn(LooksFile, text, { none })
  return { typeStyles, colours, ramps }
}
