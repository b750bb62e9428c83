import { bodyOf, route } from '@/server/guard'
import { maxPictureBytes } from '@/server/config'
import { keepPicture } from '@/server/pictures'

export const POST = route(async (request) => {
  const fileName =
    (new URL(request.url).searchParams.get('name') ?? '').replace(/^.*[\\/]/, '').slice(0, 200) || 'picture'
  const body = bodyOf(request, { type: 'application/octet-stream', maxBytes: maxPictureBytes })
  return Response.json(await keepPicture(fileName, body, request.signal), { status: 201 })
})
