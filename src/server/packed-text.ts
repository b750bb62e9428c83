import { promisify } from 'node:util'
import { brotliCompress, brotliDecompress, constants } from 'node:zlib'
import { mostDocumentBytes } from '@/core/folio/document'

const compress = promisify(brotliCompress)
const decompress = promisify(brotliDecompress)

/** Texts of earlier builds were bounded less tightly; what is longer than this is damage. */
const mostBytes = 10 * mostDocumentBytes

/** A text in a fifteenth of its room or so, packed beside the server's own thread (Brotli, RFC 7932). */
export const packText = (text: string): Promise<Buffer> =>
  compress(Buffer.from(text, 'utf8'), {
    params: {
      [constants.BROTLI_PARAM_QUALITY]: 5,
      [constants.BROTLI_PARAM_MODE]: constants.BROTLI_MODE_TEXT,
    },
  })

/** @throws where it is not what `packText` made */
export const unpackText = async (packed: Buffer): Promise<string> =>
  (await decompress(packed, { maxOutputLength: mostBytes })).toString('utf8')
