import type { CircuitReport } from '../evaluate/evaluate'
import type { Installation } from '../installation/installation'
import { extraTests, type Test } from '../verify/tests'

/** Tests that may be put into the plan of a circuit and are not in it; none while it is not worked out. */
export function testsBesides(job: Installation, { circuit, chosen, tests }: CircuitReport): readonly Test[] {
  if (tests.length === 0 || !chosen.result) return []
  const planned = new Set(tests.map((t) => t.id))
  return extraTests(job, circuit, chosen.result, chosen.layout).filter((t) => !planned.has(t.id))
}
