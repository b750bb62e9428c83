import { redirect } from 'next/navigation'
import { asksForWord } from '@/server/door/session'
import { SignIn } from '@/ui/shell/sign-in'

export const dynamic = 'force-dynamic'

/** Only paths of this server are gone to. */
const pathOf = (to: string | string[] | undefined): string =>
  typeof to === 'string' && /^\/(?![/\\])/.test(to) ? to : '/'

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>
}) {
  if (!asksForWord()) redirect('/')
  return <SignIn to={pathOf((await searchParams).to)} />
}
