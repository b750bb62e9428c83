import { z } from 'zod'
import { KeptStyle } from '@/core/map/style'
import { readOwn } from '../own-file'

const StylesFile = z.object({
  format: z.literal('keen-styles'),
  version: z.literal(1),
  styles: z.array(KeptStyle).min(1).max(5000),
})

/** Kept styles as a file, for other folios. */
export const writeStyles = (styles: KeptStyle[]): string =>
  JSON.stringify(StylesFile.parse({ format: 'keen-styles', version: 1, styles }), null, 2) + '\n'

/**
 * Reads kept styles from a file.
 * @throws ImportError saying what is wrong with it.
 */
export const readStyles = (text: string, fileName: string): KeptStyle[] =>
  readOwn(StylesFile, text, { none: `${fileName} is no file of styles` }).styles
