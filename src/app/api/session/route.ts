import { z } from 'zod'
import { readJson, route } from '@/server/guard'
import { signIn, signOut } from '@/server/door/session'

const Word = z.object({ word: z.string().min(1).max(1000) })

export const POST = route(
  async (request) => {
    const { word } = await readJson(request, Word, 10_000)
    return new Response(null, { status: 204, headers: { 'set-cookie': await signIn(request, word) } })
  },
  { open: true },
)

export const DELETE = route(
  async (request) => {
    const everywhere = new URL(request.url).searchParams.has('everywhere')
    return new Response(null, { status: 204, headers: { 'set-cookie': await signOut(request, everywhere) } })
  },
  { open: true },
)
