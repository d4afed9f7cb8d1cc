// A small meter to practise with: answers over TCP what a real one would show on the wiring of a job, with a fault planted if wanted.
//   npm run instrument -- [--job FILE or the name of a demo job] [--fault random | ID | list] [--port 5025]
import { readFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { parseArgs } from 'node:util'
import { demoJobs } from '../src/core/demo/demo'
import { evaluate } from '../src/core/evaluate/evaluate'
import { asDesigned, type Difference } from '../src/core/meters/as-wired'
import { wiringOf } from '../src/core/meters/wiring-of'
import { shownBy } from '../src/core/meters/measure'
import { mistakesOf } from '../src/core/faults/mistakes'
import { read } from '../src/core/installation/installation'
import { applyEdit } from '../src/core/job/edits'
import { readJobFile } from '../src/core/job/file'
import { type Job, newJob } from '../src/core/job/schema'
import { answerOf, probesOf, SIMULATED } from '../src/core/meters/scpi'

const { values: asked } = parseArgs({
  options: { job: { type: 'string', default: 'honey-house' }, fault: { type: 'string' }, port: { type: 'string', default: '5025' } },
})

function jobNamed(name: string): Job {
  const demo = demoJobs.find((d) => d.id === name)
  if (demo) return demo.edits.reduce((job, e) => applyEdit(job, e).job, newJob(demo.region, demo.title, demo.place))
  return readJobFile(JSON.parse(readFileSync(name, 'utf8'))).job
}

const job = read(jobNamed(asked.job))
const circuits = new Map(
  evaluate(job, []).circuits.flatMap((report) => {
    const wiring = wiringOf(job, report)
    return wiring ? [[report.circuit.id, { wiring, tests: report.tests }] as const] : []
  }),
)
if (asked.fault === 'list') {
  for (const [id, { wiring }] of circuits) for (const m of mistakesOf(wiring)) console.log(`${id}\t${m.id}\t${m.words}`)
  process.exit(0)
}
/** The fault of each circuit: none, the one that was named, or a secret one. */
const planted = new Map<string, Difference>(
  [...circuits].map(([id, { wiring }]) => {
    const all = mistakesOf(wiring)
    const one = asked.fault === 'random' ? all[Math.floor(Math.random() * all.length)] : all.find((m) => m.id === asked.fault)
    return [id, one?.difference ?? asDesigned]
  }),
)
if (asked.fault && asked.fault !== 'random' && [...planted.values()].every((d) => d === asDesigned)) {
  console.error(`No circuit has a fault called ${asked.fault}; --fault list tells them.`)
  process.exit(64)
}

const NOTHING = '+9.91000000E+37'
/** A meter is never quite still. */
const stirred = (value: number): number => value * (1 + (Math.random() - 0.5) * 0.004)

function shownAt(circuit: string, test: string): string {
  const at = circuits.get(circuit)
  const of = at?.tests.find((t) => t.id === test)
  if (!at || !of) return NOTHING
  const shown = shownBy(
    at.wiring,
    planted.get(circuit)!,
    of,
    at.wiring.places.map((p) => p.id),
  )
  if (shown === null || shown === 'yes' || shown === 'no') return NOTHING
  return answerOf(shown === 'open' ? shown : stirred(shown), of.unit)
}

const server = createServer((socket) => {
  let held = ''
  let at = { circuit: '', test: '' }
  socket.on('error', () => socket.destroy())
  socket.on('data', (bytes) => {
    held += bytes.toString('latin1')
    if (held.length > 4096) return socket.destroy()
    for (let end = held.indexOf('\n'); end >= 0; end = held.indexOf('\n')) {
      const line = held.slice(0, end).trim()
      held = held.slice(end + 1)
      const probes = probesOf(line)
      if (probes) at = probes
      else if (line === '*IDN?') socket.write(`${SIMULATED},0,1\n`)
      else if (line.endsWith('?')) socket.write(`${line.startsWith('MEAS:') ? shownAt(at.circuit, at.test) : NOTHING}\n`)
    }
  })
})
server.listen(Number(asked.port), '127.0.0.1', () => {
  console.log(`A simulated meter on ${job.title} at 127.0.0.1:${asked.port}${asked.fault ? ', with a fault planted' : ''}.`)
  console.log(`Start the application with SYNTHEMA_INSTRUMENTS=127.0.0.1:${asked.port} to read it there.`)
})
