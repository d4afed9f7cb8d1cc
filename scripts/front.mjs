// The built application for clients beyond this machine: behind TLS, where a client that speaks plain HTTP gets one page that says so; or,
// with TLS=off, in plain HTTP behind a server of the owner's. What a request says of where it comes from is believed of no one but the
// proxy that TRUSTED_PROXY names by its address.
import http from 'node:http'
import https from 'node:https'
import net from 'node:net'
import { certificates } from './certificates.mjs'
import { refuseMethod } from './methods.mjs'
import { KEPT_MS } from './setup.mjs'

process.env.NODE_ENV = 'production'
const { default: next } = await import('next')

const [host, port] = [process.env.HOST, Number(process.env.PORT)]
const names = [...new Set([...process.env.HOSTS.split(','), 'localhost', '127.0.0.1', '::1'])].filter(Boolean)
const open = process.env.TLS === 'off'
const { cert, key, authority, fingerprint } = open ? {} : await certificates(process.env.SYNTHEMA_DATA, names)
if (!open) process.env.SYNTHEMA_TLS = fingerprint

const app = next({ dev: false, dir: process.cwd(), hostname: host, port })
await app.prepare()
const answer = app.getRequestHandler()

const giveAuthority = (response) =>
  response
    .writeHead(200, {
      'content-type': 'application/x-x509-ca-cert',
      'content-disposition': 'attachment; filename="synthema-authority.crt"',
      'cache-control': 'no-store',
    })
    .end(authority)
const wantsAuthority = ({ method, url }) => method === 'GET' && url === '/authority.crt'

const trusted = new Set(
  (process.env.TRUSTED_PROXY ?? '')
    .split(',')
    .map((x) => x.trim())
    .filter(Boolean),
)
const addressOf = (socket) => (socket.remoteAddress ?? 'unknown').replace(/^::ffff:/, '')

/** Who asks is known by the connection, or by the trusted proxy, and not by what the asker says of it. */
function vetted(request, scheme) {
  const from = addressOf(request.socket)
  const proxied = trusted.has(from)
  const said = proxied
    ? String(request.headers['x-forwarded-for'] ?? '')
        .split(',')
        .at(-1)
        ?.trim()
    : ''
  const proto = proxied && request.headers['x-forwarded-proto'] === 'https' ? 'https' : scheme
  for (const name of Object.keys(request.headers)) if (/^(x-)?forwarded/.test(name)) delete request.headers[name]
  request.headers['x-forwarded-for'] = said || from
  request.headers['x-forwarded-proto'] = proto
}

const served = (scheme) => (request, response) => {
  if (!open && wantsAuthority(request)) return giveAuthority(response)
  if (refuseMethod(request, response)) return
  vetted(request, scheme)
  // Where the owner says so alone: a browser that was told once refuses plain HTTP for as long on this name, whatever listens there.
  if (scheme === 'https' && process.env.HSTS) response.setHeader('strict-transport-security', `max-age=${hstsSeconds}`)
  return answer(request, response)
}
const hstsSeconds = Math.max(0, Math.round(Number(process.env.HSTS) * 24 * 3600)) || 0

/** A handshake begun and not finished is dropped after so long: long enough for a busy small machine that is asked by a hundred at once. */
const HANDSHAKE_MS = 10_000
const tls = { minVersion: 'TLSv1.2', keepAliveTimeout: KEPT_MS, handshakeTimeout: HANDSHAKE_MS }
const behindTls = open ? null : https.createServer({ cert, key, ...tls }, served('https'))

/** The certificate is made again well before it runs out, without a restart; the authority that devices trust stays. */
const RENEWED_MS = 24 * 3600 * 1000
const GOOD_FOR_MS = 300 * RENEWED_MS
let madeAt = Date.now()
if (behindTls)
  setInterval(async () => {
    if (Date.now() - madeAt < GOOD_FOR_MS) return
    const fresh = await certificates(process.env.SYNTHEMA_DATA, names)
    behindTls.setSecureContext({ cert: fresh.cert, key: fresh.key, minVersion: 'TLSv1.2' })
    madeAt = Date.now()
    console.log('Synthema: its certificate was made anew; devices that trust its authority go on.')
  }, RENEWED_MS).unref()

const known = new Set(names)
const plain = http.createServer((request, response) => {
  if (wantsAuthority(request)) return giveAuthority(response)
  if (refuseMethod(request, response)) return
  const asked = (request.headers.host ?? '').toLowerCase().replace(/:\d+$/, '')
  const address = `https://${known.has(asked) ? asked : names[0]}:${port}/`
  response.writeHead(403, {
    'content-type': 'text/html; charset=utf-8',
    'cache-control': 'no-store',
    'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
    connection: 'close',
  }).end(`<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Synthema: over TLS only</title><style>body{font:1.1rem/1.5 sans-serif;max-width:40rem;margin:2rem auto;padding:0 1rem}
code{overflow-wrap:anywhere}</style>
<h1>This server speaks over TLS only</h1>
<p>Nothing is read or written over plain HTTP, where everybody on the network could read along.
Go to <a href="${address}">${address}</a>.</p>
<p>Your browser does not know this server yet, and says so. To make it known, take its
<a href="/authority.crt">authority’s certificate</a>, and before you trust it compare its SHA-256 fingerprint with the one that the
terminal shows where the server was started:</p>
<p><code>${fingerprint}</code></p></html>`)
})

/** TLS begins with this byte, and no request of HTTP does. */
const HANDSHAKE = 0x16
const FIRST_BYTE_MS = 10_000
const behindNothing = http.createServer({ keepAliveTimeout: KEPT_MS }, served('http'))
const bySort = net.createServer((socket) => {
  socket.on('error', () => socket.destroy())
  socket.setTimeout(FIRST_BYTE_MS, () => socket.destroy())
  socket.once('data', (begun) => {
    socket.setTimeout(0)
    socket.removeAllListeners('timeout')
    socket.pause()
    socket.unshift(begun)
    ;(begun[0] === HANDSHAKE ? behindTls : plain).emit('connection', socket)
    process.nextTick(() => socket.resume())
  })
})
const listening = open ? behindNothing : bySort
// What was acknowledged is on the disk: nothing is waited for.
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(0))
listening.listen(port, host, () => {
  const at = names.filter((n) => n !== '::1').map((n) => `${open ? 'http' : 'https'}://${n}:${port}`)
  console.log(`Synthema ${open ? 'in plain HTTP (TLS=off)' : 'over TLS'}: ${at.join('  ')}`)
  if (open)
    return console.log(
      trusted.size ? `Proxies that are believed: ${[...trusted].join(', ')}` : 'No proxy is believed: TRUSTED_PROXY names none.',
    )
  console.log('Its authority’s certificate is at /authority.crt; SHA-256 fingerprint, to compare with what a device shows:')
  console.log(fingerprint)
})
