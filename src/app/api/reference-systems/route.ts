import { route } from '@/server/guard'
import { searchReferenceSystems } from '@/server/reference-systems'

export const GET = route(async (request) => {
  const { searchParams } = new URL(request.url)
  const extent = (searchParams.get('extent') ?? '').split(',').map(Number)
  return Response.json(
    searchReferenceSystems(
      searchParams.get('words') ?? '',
      extent.length === 4 && extent.every(Number.isFinite)
        ? (extent as [number, number, number, number])
        : null,
    ),
  )
})
