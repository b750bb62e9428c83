import { z } from 'zod'
import { readJson, route } from '@/server/guard'
import { deleteTemplate, renameTemplate, templateFile } from '@/server/templates'

/** The template as a file. */
export const GET = route(async (_, { id }) => {
  const { name, text } = await templateFile(id)
  return new Response(text, {
    headers: {
      'content-type': 'application/json',
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name.replace(/[^\p{L}\p{N}]+/gu, '-')}.keen-template.json`)}`,
    },
  })
})

export const PATCH = route(async (request, { id }) => {
  const { name } = await readJson(request, z.object({ name: z.string().min(1).max(120) }))
  return Response.json(await renameTemplate(id, name))
})

export const DELETE = route(async (_, { id }) => {
  await deleteTemplate(id)
  return new Response(null, { status: 204 })
})
