import { type NextRequest, NextResponse } from 'next/server'
import { getIronSession } from 'iron-session'
import { contentSecurityPolicy, nonceOf, refusal } from './server/guards'
import { door, type Person, personOf, schemeOf, sessionOptions } from './server/sign-in'

/** What one may see without being signed in: the door itself, and the mark on the tab. */
const outside = new Set(['/sign-in', '/api/sign-in', '/icon.svg'])

async function mustSignIn(request: NextRequest): Promise<boolean> {
  const here = door()
  if (!here || outside.has(request.nextUrl.pathname)) return false
  return personOf(await getIronSession<Person>(request, new Response(), sessionOptions(here))) === null
}

export async function proxy(request: NextRequest): Promise<NextResponse> {
  const refused = refusal(request.method, request.headers)
  if (refused) return NextResponse.json({ error: { path: '', message: refused } }, { status: 403 })
  if (await mustSignIn(request)) {
    const { pathname, search } = request.nextUrl
    if (pathname.startsWith('/api/'))
      return NextResponse.json({ error: { path: '', message: 'Sign in first: open the page again.' } }, { status: 401 })
    // By the name that was asked for, which was checked above: the address this server listens at may be a wildcard.
    return NextResponse.redirect(
      new URL(`/sign-in?to=${encodeURIComponent(pathname + search)}`, `${schemeOf(request.headers)}://${request.headers.get('host')}`),
    )
  }
  const nonce = nonceOf()
  const policy = contentSecurityPolicy(nonce, process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  headers.set('x-nonce', nonce)
  headers.set('content-security-policy', policy)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('content-security-policy', policy)
  response.headers.set('x-content-type-options', 'nosniff')
  response.headers.set('referrer-policy', 'same-origin')
  // What is read here is the household's own: no cache on the way keeps it.
  // A stream of events that is packed reaches nobody until it is over.
  response.headers.set('cache-control', request.nextUrl.pathname.endsWith('/events') ? 'no-store, no-transform' : 'no-store')
  return response
}

export const config = { matcher: ['/((?!_next/static|_next/image).*)'] }
