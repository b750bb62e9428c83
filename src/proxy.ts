import { randomBytes } from 'node:crypto'
import { NextResponse, type NextRequest } from 'next/server'
import { isOurName } from '@/server/door/hosts'
import { pagePolicy, scriptPolicy } from '@/server/door/policy'
import { isSignedIn } from '@/server/door/session'

/**
 * The door of every page: the name it is asked for under, whether somebody has signed in where that is needed,
 * and what the page may do. Routes under /api check the same themselves (`server/guard.ts`); they are not taken
 * through here because bodies would be kept in memory.
 */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  if (!isOurName(request.headers.get('host') ?? ''))
    return new NextResponse(
      'This name is not one of this server’s. Open Keen Plot under localhost, or add the name to KEEN_PLOT_HOSTS.\n',
      { status: 403, headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' } },
    )
  const { pathname, search } = request.nextUrl
  if (pathname.startsWith('/_next/')) {
    const answer = NextResponse.next()
    answer.headers.set('content-security-policy', scriptPolicy)
    return answer
  }
  if (pathname !== '/sign-in' && !pathname.startsWith('/fonts/') && !(await isSignedIn(request))) {
    const door = request.nextUrl.clone()
    door.pathname = '/sign-in'
    door.search = `?to=${encodeURIComponent(pathname + search)}`
    return NextResponse.redirect(door)
  }
  const nonce = randomBytes(16).toString('base64')
  const policy = pagePolicy(nonce, process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  headers.set('x-nonce', nonce)
  headers.set('content-security-policy', policy)
  const answer = NextResponse.next({ request: { headers } })
  answer.headers.set('content-security-policy', policy)
  return answer
}

export const config = { matcher: ['/((?!api/).*)'] }
