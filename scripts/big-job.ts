import { runOf } from '../src/core/job/cable'
import { addCircuit } from '../src/core/job/circuit'
import { bareJob, type Job } from '../src/core/job/schema'

/** A job of n circuits, no two alike, each worked out to the end. */
export function bigJob(n: number): Job {
  const job = bareJob('united-kingdom', 'Bench', '')
  job.supply.zeOhm = 0.35
  for (let i = 0; i < n; i++) {
    const circuit = addCircuit(job, `c${i}`, `Circuit ${i}`)
    circuit.load.amount = 500 + (i % 40) * 120
    circuit.designs[0]!.accessory = i % 3 ? 'uk-socket-13' : 'uk-fcu'
    runOf(job, circuit.id).lengthM = 5 + (i % 50)
    job.boxes.at(-1)!.kind = 'uk-metal-35'
  }
  return job
}
