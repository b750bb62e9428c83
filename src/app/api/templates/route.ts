import { nanoid } from 'nanoid'
import { SheetTemplate } from '@/core/sheet/template'
import { maxTemplateBytes } from '@/server/config'
import { readBody, readJson, route } from '@/server/guard'
import { bringInTemplate, keepTemplate, listTemplates } from '@/server/templates'

export const GET = route(async () => Response.json(await listTemplates()))

/** Keeps a template that is sent as JSON, or brings in one from a file that is sent as bytes. */
export const POST = route(async (request) => {
  if (request.headers.get('content-type') === 'application/json')
    return Response.json(await keepTemplate(await readJson(request, SheetTemplate, 5_000_000)), {
      status: 201,
    })
  const bytes = await readBody(request, { type: 'application/octet-stream', maxBytes: maxTemplateBytes })
  return Response.json(await bringInTemplate(new TextDecoder().decode(bytes), () => nanoid(12)), {
    status: 201,
  })
})
