import { createHash } from 'node:crypto'

/** Ids are the beginning of the SHA-256 of what they stand for, so the same rows are stored once. */
export const contentIdOf = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('hex').slice(0, 32)

export const isContentId = (text: string): boolean => /^[0-9a-f]{32}$/.test(text)
