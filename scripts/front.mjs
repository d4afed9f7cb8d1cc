// The built application behind TLS, for whoever comes from beyond this machine. Who speaks plain HTTP gets one page that says so.
import http from 'node:http'
import https from 'node:https'
import net from 'node:net'
import { certificates } from './certificates.mjs'
import { KEPT_MS } from './setup.mjs'

process.env.NODE_ENV = 'production'
const { default: next } = await import('next')

const [host, port] = [process.env.HOST, Number(process.env.PORT)]
const names = [...new Set([...process.env.HOSTS.split(','), 'localhost', '127.0.0.1', '::1'])].filter(Boolean)
const { cert, key, authority, fingerprint } = await certificates(process.env.SYNTHEMA_DATA, names)
process.env.SYNTHEMA_TLS = fingerprint

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

const behindTls = https.createServer({ cert, key, minVersion: 'TLSv1.2', keepAliveTimeout: KEPT_MS }, (request, response) => {
  if (wantsAuthority(request)) return giveAuthority(response)
  // Who asks is told by the connection, and not by what the asker says of it.
  for (const name of Object.keys(request.headers)) if (/^(x-)?forwarded/.test(name)) delete request.headers[name]
  request.headers['x-forwarded-for'] = request.socket.remoteAddress ?? 'unknown'
  request.headers['x-forwarded-proto'] = 'https'
  return answer(request, response)
})

const known = new Set(names)
const plain = http.createServer((request, response) => {
  if (wantsAuthority(request)) return giveAuthority(response)
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
const listening = net.createServer((socket) => {
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
// What was acknowledged is on the disk: nothing is waited for.
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(0))
listening.listen(port, host, () => {
  console.log(
    `Synthema over TLS: ${names
      .filter((n) => n !== '::1')
      .map((n) => `https://${n}:${port}`)
      .join('  ')}`,
  )
  console.log('Its authority’s certificate is at /authority.crt; SHA-256 fingerprint, to compare with what a device shows:')
  console.log(fingerprint)
})
