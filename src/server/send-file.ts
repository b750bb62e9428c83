import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'

/** A file as an answer, read piece by piece as it is taken. */
export function sendFile(
  { file, bytes, mime, fileName }: { file: string; bytes?: number; mime: string; fileName?: string },
  headers: Record<string, string> = {},
): Response {
  // The platform's two types of stream are the same at run time.
  const stream = Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array>
  return new Response(stream, {
    headers: {
      'content-type': mime,
      ...(bytes === undefined ? {} : { 'content-length': String(bytes) }),
      ...(fileName === undefined
        ? {}
        : { 'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}` }),
      ...headers,
    },
  })
}
