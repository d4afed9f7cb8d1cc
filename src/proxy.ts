import { type NextRequest, NextResponse } from 'next/server'
import { contentSecurityPolicy, refusal } from './server/guards'

export function proxy(request: NextRequest): NextResponse {
  const refused = refusal(request.method, request.headers)
  if (refused) return NextResponse.json({ error: { path: '', message: refused } }, { status: 403 })
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64')
  const policy = contentSecurityPolicy(nonce, process.env.NODE_ENV === 'development')
  const headers = new Headers(request.headers)
  headers.set('x-nonce', nonce)
  headers.set('content-security-policy', policy)
  const response = NextResponse.next({ request: { headers } })
  response.headers.set('content-security-policy', policy)
  response.headers.set('x-content-type-options', 'nosniff')
  response.headers.set('referrer-policy', 'same-origin')
  return response
}

export const config = { matcher: ['/((?!_next/static|_next/image).*)'] }
