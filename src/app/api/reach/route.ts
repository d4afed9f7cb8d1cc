import { authority, door, schemeOf } from '@/server/sign-in'
import { listeningHosts } from '@/server/guards'
import { route } from '@/server/respond'

/** Addresses at which a phone on the same network finds this server; none while it listens on its own machine only. */
export const GET = route((request: Request) => {
  const port = /:\d+$/.exec(request.headers.get('host') ?? '')?.[0] ?? ''
  return { addresses: door() ? listeningHosts().map((h) => `${schemeOf(request.headers)}://${h}${port}`) : [], authority: authority() }
})
