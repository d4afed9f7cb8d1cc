import { describe, expect, it } from 'vitest'
import { contentSecurityPolicy, nonceOf, ownPath, refusal } from './guards'

const headers = (h: Record<string, string>) => new Headers(h)
const host = { host: '127.0.0.1:3000' }

describe('requests', () => {
  it.each([
    ['our own page', 'POST', { ...host, origin: 'http://127.0.0.1:3000' }],
    ['a program that is no browser', 'POST', host],
    ['reading', 'GET', { host: 'localhost:3000' }],
    ['reading by IPv6 loopback', 'GET', { host: '[::1]:3000' }],
  ])('lets %s through', (_, method, h) => expect(refusal(method, headers(h))).toBeNull())

  it.each([
    ['another site', 'POST', { ...host, origin: 'https://elsewhere.example' }],
    ['another port of this machine', 'POST', { ...host, origin: 'http://127.0.0.1:4000' }],
    ['an opaque origin', 'DELETE', { ...host, origin: 'null' }],
    ['another site that hides its origin', 'POST', { ...host, 'sec-fetch-site': 'cross-site' }],
    ['a rebound name, even to read', 'GET', { host: 'elsewhere.example:3000' }],
    ['a name that starts like ours', 'GET', { host: '127.0.0.1.elsewhere.example' }],
    ['no host', 'GET', {}],
  ])('refuses %s', (_, method, h) => expect(refusal(method, headers(h as Record<string, string>))).toMatch(/\w/))
})

describe('the content security policy', () => {
  it('allows scripts by nonce only', () => {
    const scripts = contentSecurityPolicy('abc', false)
      .split('; ')
      .find((d) => d.startsWith('script-src'))
    expect(scripts).toBe("script-src 'self' 'nonce-abc' 'strict-dynamic'")
  })
})

describe('what the scripts of an answer are known by', () => {
  it('is another each time, and nobody else’s', () => {
    const many = Array.from({ length: 50 }, () => nonceOf({}))
    expect(new Set(many).size).toBe(50)
    for (const one of many) expect(one).toMatch(/^[A-Za-z0-9+/]{40,}=*$/)
  })
  it('is fixed for tests, and never beyond this machine', () => {
    expect(nonceOf({ SYNTHEMA_FIXED_NONCE: 'abc' })).toBe('abc')
    expect(nonceOf({ SYNTHEMA_FIXED_NONCE: 'abc', SYNTHEMA_FAR: '1' })).not.toBe('abc')
    expect(nonceOf({ SYNTHEMA_FIXED_NONCE: '' })).not.toBe('')
  })
})

describe('the way on after signing in', () => {
  it.each(['/', '/jobs/a/survey?sheet=board', '/jobs/a%2Fb'])('goes to %s, which is ours', (to) => expect(ownPath(to)).toBe(to))
  it.each([
    '//elsewhere.example',
    '/\\elsewhere.example',
    '/\t/elsewhere.example',
    '/\n/elsewhere.example',
    '/%09/..//elsewhere.example\r',
    'https://elsewhere.example',
    'javascript:alert(1)',
    '',
    undefined,
    ['/a', '/b'],
  ])('goes home instead of %j', (to) => expect(ownPath(to)).toBe('/'))
})
