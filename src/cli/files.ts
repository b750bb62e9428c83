import { readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** What a person can do about a fault of the system, by its code. */
const faults: Record<string, (file: string) => string> = {
  ENOENT: (file) => `There is no file ${file}, or its folder does not exist.`,
  ENOTDIR: (file) => `There is no file ${file}: what stands before its name is no folder.`,
  EISDIR: (file) => `${file} is a folder. Say a file.`,
  EACCES: (file) => `You may not read or write ${file}.`,
  EPERM: (file) => `You may not read or write ${file}.`,
  EROFS: (file) => `${file} lies on a disk that nothing can be written to.`,
  ENOSPC: (file) => `The disk is full: ${file} was not written.`,
  EDQUOT: (file) => `The room that you have on this disk is used up: ${file} was not written.`,
  EFBIG: (file) => `${file} would be larger than a file can be there.`,
  ENAMETOOLONG: (file) => `The name ${path.basename(file).slice(0, 40)}… is too long for this disk.`,
  ERR_FS_FILE_TOO_LARGE: (file) => `${file} is larger than 2 GB.`,
}

/** A fault with a file, in words; null for a fault that is none of the system's. */
export function fileFault(error: unknown): string | null {
  if (!(error instanceof Error) || !('code' in error) || typeof error.code !== 'string') return null
  const file = 'path' in error && error.path ? String(error.path) : 'the file'
  return Object.hasOwn(faults, error.code) ? faults[error.code](file) : null
}

/** The fault of another call, said of the file that a person named. */
const said = (error: unknown, file: string): unknown =>
  error instanceof Error && 'code' in error ? Object.assign(error, { path: file }) : error

/**
 * The bytes of a file.
 * @param mostBytes what a file of its sort can have
 * @throws Error in words, where it is none or larger
 */
export function readInput(file: string, mostBytes = Infinity): Buffer {
  try {
    const { size } = statSync(file)
    if (size > mostBytes) throw new Error(`${file} is larger than ${Math.round(mostBytes / 1024 / 1024)} MB.`)
    return readFileSync(file)
  } catch (error) {
    throw said(error, file)
  }
}

/**
 * Writes a file that has its name only once it is whole: one that is there stays as it is where this fails.
 * @throws Error with the file's path
 */
export function writeOutput(file: string, bytes: string | Uint8Array): void {
  const draft = `${file}.${process.pid}.part`
  try {
    const known = statSync(file, { throwIfNoEntry: false })
    // Pipes and devices are written to; a folder says that it is one.
    if (known && !known.isFile()) return writeFileSync(file, bytes)
    writeFileSync(draft, bytes)
    renameSync(draft, file)
  } catch (error) {
    rmSync(draft, { force: true })
    throw said(error, file)
  }
}
