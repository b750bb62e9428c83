import { z } from 'zod'
import { KeptStyle } from '@/core/map/style'
import { ImportError } from '../import-error'

const StylesFile = z.object({
  format: z.literal('keen-styles'),
  version: z.literal(1),
  styles: z.array(KeptStyle).min(1),
})

/** Kept styles as a file, for other folios. */
export const writeStyles = (styles: KeptStyle[]): string =>
  JSON.stringify(StylesFile.parse({ format: 'keen-styles', version: 1, styles }), null, 2) + '\n'

/**
 * Reads kept styles from a file.
 * @throws ImportError saying what is wrong with it.
 */
export function readStyles(text: string, fileName: string): KeptStyle[] {
  let stored: unknown
  try {
    stored = JSON.parse(text)
  } catch {
    throw new ImportError(`${fileName} is no file of styles: it is not JSON.`)
  }
  const result = StylesFile.safeParse(stored)
  if (result.success) return result.data.styles
  const [issue] = result.error.issues
  throw new ImportError(
    `${fileName} is no file of styles that can be read: at ${issue.path.join(' › ') || 'the top'}, ${issue.message}.`,
  )
}
