import { createServer, type Server, type Socket } from 'node:net'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { answerOf, probesOf, probesWords, queryFor, readingOf } from '@/core/meters/scpi'
import { instruments, linkTo, listenTo } from './instruments'

vi.mock('server-only', () => ({}))

describe('what instruments say', () => {
  it('is a figure in the plain unit, scaled to that of the test', () => {
    expect(readingOf('+5.20000000E-01\n', 'Ω')).toEqual({ value: 0.52, mark: null })
    expect(readingOf('3.1E+08', 'MΩ')).toEqual({ value: 310, mark: null })
    expect(readingOf('-2.301E+02,ok', 'V')).toEqual({ value: 230.1, mark: null })
    expect(readingOf('0.0183', 'ms')).toEqual({ value: 18.3, mark: null })
  })
  it('over its range is open, nothing to show and babble are no reading', () => {
    expect(readingOf('+9.90000000E+37', 'Ω')).toEqual({ value: null, mark: 'open' })
    for (const no of ['+9.91000000E+37', '', 'OL', 'nan', '1e999', '1 2', '<b>1</b>', '0x10']) expect(readingOf(no, 'Ω'), no).toBeNull()
  })
  it('and back again', () => {
    for (const v of [0.37, 1, 230.4, 0.00012]) expect(readingOf(answerOf(v, 'Ω'), 'Ω')!.value).toBeCloseTo(v, 6)
    expect(readingOf(answerOf(200, 'MΩ'), 'MΩ')).toEqual({ value: 200, mark: null })
    expect(readingOf(answerOf('open', 'Ω'), 'Ω')).toEqual({ value: null, mark: 'open' })
    expect(probesOf(probesWords('c1', 'zs'))).toEqual({ circuit: 'c1', test: 'zs' })
    expect(probesOf('ROUT:PROB "a"b","c"')).toBeNull()
    expect(queryFor('')).toBeNull()
  })
})

describe('those that are named at the start', () => {
  it('are addresses with a port; anything else is left out', () => {
    const names = (s: string) => instruments(s).map((i) => i.name)
    expect(names('127.0.0.1:5025, meter.local:1')).toEqual(['127.0.0.1:5025', 'meter.local:1'])
    expect(names('')).toEqual([])
    expect(names('host, host:0, host:70000, http://x:80/, :5025, a b:1')).toEqual([])
    expect(instruments('[::1]:5025')).toMatchObject([{ host: '::1', port: 5025 }])
  })
})

let server: Server | null = null
const sockets: Socket[] = []
/** A meter that does as it is told with each line it hears. */
const meter = (hears: (line: string, socket: Socket) => void): Promise<{ name: string; host: string; port: number }> =>
  new Promise((resolve) => {
    server = createServer((socket) => {
      sockets.push(socket)
      socket.on('error', () => null)
      socket.on('data', (d) =>
        d
          .toString()
          .split('\n')
          .filter(Boolean)
          .forEach((l) => hears(l, socket)),
      )
    })
    server.listen(0, '127.0.0.1', () => resolve({ name: 'meter', host: '127.0.0.1', port: (server!.address() as { port: number }).port }))
  })
afterEach(() => {
  vi.useRealTimers()
  for (const s of sockets.splice(0)) s.destroy()
  server?.close()
})

describe('a link to one', () => {
  it('asks, and hears one line an answer', async () => {
    const at = await meter((line, s) => s.write(line === '*IDN?' ? 'Some,Meter,1,2\r\n' : '+1.0E+00\r\n'))
    const link = await linkTo(at)
    expect(link.simulated).toBe(false)
    expect(await link.ask('MEAS:RES?')).toBe('+1.0E+00')
    expect(await link.ask('MEAS:RES?')).toBe('+1.0E+00')
    link.end()
  })
  it('is cut off where it babbles, hangs up or is not there', async () => {
    const babbles = await meter((_, s) => s.write('x'.repeat(5000)))
    await expect(linkTo(babbles)).rejects.toThrow(/says more than an instrument does/)
    server!.close()
    const leaves = await meter((_, s) => s.destroy())
    await expect(linkTo(leaves)).rejects.toThrow(/hung up/)
    server!.close()
    await expect(linkTo({ ...leaves, port: 1 })).rejects.toThrow(/cannot be reached/)
  })
  it('is cut off where it hangs', async () => {
    const at = await meter((line, s) => line === '*IDN?' && s.write('A,B,C,D\n'))
    const link = await linkTo(at)
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const asked = link.ask('MEAS:RES?')
    const refused = expect(asked).rejects.toThrow(/does not answer/)
    await vi.advanceTimersByTimeAsync(5001)
    await refused
    await expect(link.ask('MEAS:RES?')).rejects.toThrow(/hung up/)
  })
  it('is waited for again where this machine itself stood still, and is cut off all the same where it hangs', async () => {
    const at = await meter((line, s) => line === '*IDN?' && s.write('A,B,C,D\n'))
    const link = await linkTo(at)
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const now = vi.spyOn(performance, 'now')
    const stoodStill = async (ms: number) => {
      const then = performance.now() + ms
      now.mockImplementation(() => then)
      await vi.advanceTimersByTimeAsync(5001)
    }
    let heard: string | null = null
    const asked = link.ask('MEAS:RES?').then((line) => (heard = line))
    await stoodStill(8000)
    sockets[0]!.write('+1.0E+00\n')
    vi.useRealTimers()
    await asked
    expect(heard).toBe('+1.0E+00')
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    const refused = expect(link.ask('MEAS:RES?')).rejects.toThrow(/does not answer/)
    await stoodStill(8000)
    await stoodStill(5001)
    await refused
    now.mockRestore()
  })
})

describe('several who listen to one', () => {
  it('share its connection, each with the answer to what it asked, and let it go once the last has left', async () => {
    const asked: string[] = []
    const at = await meter((line, s) => {
      asked.push(line)
      if (line === '*IDN?') s.write('A,B,C,D\n')
      else s.write(line === 'MEAS:RES?' ? '1.5\n' : '230\n')
    })
    const heard: string[] = []
    const listen = (name: string, query: string) =>
      listenTo(at, { query, probes: '', shown: (x) => heard.push(`${name} ${x}`), trouble: (why) => heard.push(`${name} ${why}`) })
    const leave = [listen('a', 'MEAS:RES?'), listen('b', 'MEAS:RES?'), listen('c', 'MEAS:VOLT:AC?')]
    await vi.waitFor(() => expect(heard).toHaveLength(3))
    expect(heard.toSorted()).toEqual(['a 1.5', 'b 1.5', 'c 230'])
    expect(sockets).toHaveLength(1)
    expect(asked.filter((l) => l === 'MEAS:RES?')).toHaveLength(1)
    const closed = new Promise((resolve) => sockets[0]!.once('close', resolve))
    for (const l of leave) l()
    await closed
  })
  it('hear the same where it hangs up, and connect again when asked again', async () => {
    const at = await meter((line, s) => (line === '*IDN?' ? s.write('A,B,C,D\n') : s.destroy()))
    const told: string[] = []
    const listen = () => listenTo(at, { query: 'MEAS:RES?', probes: '', shown: () => {}, trouble: (why) => told.push(why) })
    listen()
    listen()
    await vi.waitFor(() => expect(told).toHaveLength(2))
    expect(told[0]).toMatch(/hung up/)
    await vi.waitFor(() => {
      listen()
      expect(told.length).toBeGreaterThan(2)
    })
  })
})
