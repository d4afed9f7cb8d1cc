import { calculate, calculators, isCalculatorError } from '@/core/contract/calculators'
import { calculateAside, SHORT_BYTES } from '@/server/calculator-pool'
import { readJson, readText, route } from '@/server/respond'
import { sourceOf } from '@/server/sign-in'

export const POST = route<{ params: Promise<{ name: string }> }>(async (request, { params }) => {
  const { name } = await params
  const calculator = Object.hasOwn(calculators, name) ? calculators[name] : undefined
  if (!calculator) return Response.json({ error: { path: 'name', message: `No calculator is called ${name}.` } }, { status: 404 })
  // A length that is not said may be any.
  const short = Number(request.headers.get('content-length') ?? Number.POSITIVE_INFINITY) <= SHORT_BYTES
  if (calculator.slow || !short) {
    const { status, body } = await calculateAside({ name, text: await readText(request) }, request.signal, sourceOf(request.headers))
    return new Response(body, { status, headers: { 'content-type': 'application/json' } })
  }
  const output = await calculate(calculator, await readJson(request))
  return Response.json(output, { status: isCalculatorError(output) ? 422 : 200 })
})
