/** Names and addresses beyond the loopback that this server answers to: HOSTS, comma-separated. */
export const listeningHosts = (): string[] =>
  (process.env.HOSTS ?? '')
    .split(',')
    .map((h) => h.trim().toLowerCase())
    .filter(Boolean)

/** Names this server answers to, so that a rebound name reaches nothing. */
const allowedHosts = (): Set<string> => new Set(['127.0.0.1', 'localhost', '[::1]', ...listeningHosts()])

const hostName = (host: string): string => host.toLowerCase().replace(/:\d+$/, '')

/**
 * Why a request is refused, or null. The Host must be ours; a request that changes something must come from our own
 * pages: its Origin is this host, or, where a program that is no browser sends none, no sign of another site.
 */
export function refusal(method: string, headers: Headers): string | null {
  const host = headers.get('host') ?? ''
  if (!allowedHosts().has(hostName(host))) return 'This server does not answer to that name.'
  if (method === 'GET' || method === 'HEAD') return null
  const origin = headers.get('origin')
  const site = headers.get('sec-fetch-site')
  if (origin === null) return site === null || site === 'same-origin' ? null : 'A change must come from this application’s own pages.'
  try {
    if (new URL(origin).host.toLowerCase() === host.toLowerCase()) return null
  } catch {
    // A malformed or opaque origin ("null") is another site's.
  }
  return 'A change must come from this application’s own pages.'
}

/** Where one goes after signing in: a path of our own, and never another site's, however it is dressed up. */
export function ownPath(to: unknown): string {
  const here = 'http://here.invalid'
  // What a browser strips or takes for a slash is not let through at all.
  if (typeof to !== 'string' || !to.startsWith('/') || !/^[\x21-\x5b\x5d-\x7e]+$/.test(to)) return '/'
  const url = URL.canParse(to, here) ? new URL(to, here) : null
  return url?.origin === here ? url.pathname + url.search : '/'
}

/**
 * What the scripts of one answer are known by: another for each answer. Tests, which open pages by the hundred, fix it: a browser keeps
 * what it compiled only for a script of the same nonce. Beyond this machine nothing fixes it.
 */
export function nonceOf({ SYNTHEMA_FIXED_NONCE: fixed, SYNTHEMA_FAR: far }: Record<string, string | undefined> = process.env): string {
  return fixed && far !== '1' ? fixed : Buffer.from(crypto.randomUUID()).toString('base64')
}

/** Scripts only by nonce; nothing is loaded from elsewhere. Inline style attributes are React's and carry no script. */
export function contentSecurityPolicy(nonce: string, development: boolean): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${development ? ' ws:' : ''}`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
}
