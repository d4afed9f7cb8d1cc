// Methods that the application does not use and that reveal what a request carried. Loaded before a server that has no front.
import http from 'node:http'

const notServed = new Set(['TRACE', 'TRACK', 'CONNECT'])

/** Answers a method that is not served with 405; whether it did. */
export function refuseMethod(request, response) {
  if (!notServed.has(request.method)) return false
  response.writeHead(405, { allow: 'GET, HEAD, POST, DELETE', 'cache-control': 'no-store' }).end()
  return true
}

const { emit } = http.Server.prototype
// What serves makes its own server, and fails on such a method before any code of ours is asked.
http.Server.prototype.emit = function (event, ...args) {
  return event === 'request' && refuseMethod(...args) ? true : emit.call(this, event, ...args)
}
