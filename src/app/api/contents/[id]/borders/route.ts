import { contentFile } from '@/server/contents'
import { route } from '@/server/guard'
import { startJob } from '@/server/jobs/jobs'

/** Looks for gaps and overlaps between stored areas, in a job whose result are the places. */
export const POST = route(async (_, { id }) =>
  Response.json(
    { jobId: startJob({ name: 'checkBorders', input: { file: contentFile(id) } }, async (found) => found) },
    { status: 202 },
  ),
)
