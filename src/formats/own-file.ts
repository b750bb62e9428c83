import type { z } from 'zod'
import { excessOf } from '@/core/said/excess'
import { issueWords } from '@/core/said/issue-words'
import { ImportError } from './import-error'
import { ownFiles } from './limits'

/** The text of a small file of our own. @throws ImportError where it is larger than one can be */
export async function ownText(file: {
  name: string
  size: number
  text(): Promise<string>
}): Promise<string> {
  if (file.size > ownFiles.small)
    throw new ImportError(`${file.name} is larger than 1 MB: it is something else than such a file.`)
  return file.text()
}

/**
 * Reads a JSON text of our own, which is as foreign as any other.
 * @param none what is said of one that cannot be read: `x.json is no list of prep steps`
 * @param mostBytes how long the text may be
 * @throws ImportError saying what is wrong with it
 */
export function readOwn<T>(
  schema: z.ZodType<T>,
  text: string,
  { none, mostBytes = ownFiles.small }: { none: string; mostBytes?: number },
): T {
  if (text.length > mostBytes)
    throw new ImportError(`${none}: it is larger than ${Math.round(mostBytes / 1024 / 1024)} MB.`)
  let stored: unknown
  try {
    stored = JSON.parse(text)
  } catch {
    throw new ImportError(`${none}: it is not complete JSON.`)
  }
  const excess = excessOf(stored)
  if (excess) throw new ImportError(`${none}: ${excess}.`)
  const result = schema.safeParse(stored)
  if (!result.success) throw new ImportError(`${none} that can be read: ${issueWords(result.error)}.`)
  return result.data
}
