import { nanoid } from 'nanoid'
import { ownFiles } from '@/server/config'
import { readBody, route } from '@/server/guard'
import { bringInTemplate, listTemplates } from '@/server/templates'

export const GET = route(async () => Response.json(await listTemplates()))

/** Keeps a template that is sent as JSON, or brings in one from a file that is sent as bytes. */
export const POST = route(async (request) => {
  const bare = request.headers.get('content-type') === 'application/json'
  const type = bare ? 'application/json' : 'application/octet-stream'
  const bytes = await readBody(request, { type, maxBytes: ownFiles.template })
  return Response.json(
    await bringInTemplate(bytes, { newId: () => nanoid(12), bare, signal: request.signal }),
    { status: 201 },
  )
})
