import { calculate, calculators, isCalculatorError } from '@/core/contract/calculators'
import { calculateAside, MOST_AT_ONCE } from '@/server/calculator-pool'
import { readJson, route } from '@/server/respond'

export const POST = route<{ params: Promise<{ name: string }> }>(async (request, { params }) => {
  const { name } = await params
  const calculator = Object.hasOwn(calculators, name) ? calculators[name] : undefined
  if (!calculator) return Response.json({ error: { path: 'name', message: `No calculator is called ${name}.` } }, { status: 404 })
  const input = await readJson(request)
  if (calculator.slow && Array.isArray(input) && input.length > MOST_AT_ONCE)
    return Response.json({ error: { path: '', message: `At most ${MOST_AT_ONCE} inputs at once.` } }, { status: 422 })
  const output = calculator.slow ? await calculateAside(name, input, request.signal) : await calculate(calculator, input)
  return Response.json(output, { status: isCalculatorError(output) ? 422 : 200 })
})
