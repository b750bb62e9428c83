import { ReadOptions } from '@/core/data/reading'
import { readJson, route } from '@/server/guard'
import { firstRows } from '@/server/imports'

/** The first rows of a kept table as they would be read with other choices. */
export const POST = route(async (request, { id }) =>
  Response.json(
    await firstRows(
      id,
      await readJson(request, ReadOptions),
      Number(new URL(request.url).searchParams.get('part') ?? 0),
    ),
  ),
)
