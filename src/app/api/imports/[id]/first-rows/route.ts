import { z } from 'zod'
import { ReadOptions } from '@/core/data/reading'
import { readJson, route } from '@/server/guard'
import { firstRows } from '@/server/imports'

const Part = z.coerce.number().int().nonnegative().catch(0)

/** The first rows of a kept table as they would be read with other choices. */
export const POST = route(async (request, { id }) => {
  const part = Part.parse(new URL(request.url).searchParams.get('part') ?? 0)
  const options = await readJson(request, ReadOptions)
  return Response.json(await firstRows(id, { options, part, signal: request.signal }))
})
