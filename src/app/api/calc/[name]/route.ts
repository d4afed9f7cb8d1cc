import { calculate, calculators, isCalculatorError } from '@/core/calculators'
import { readJson, route } from '@/server/respond'

export const POST = route<{ params: Promise<{ name: string }> }>(async (request, { params }) => {
  const { name } = await params
  const calculator = Object.hasOwn(calculators, name) ? calculators[name] : undefined
  if (!calculator) return Response.json({ error: { path: 'name', message: `No calculator is called ${name}.` } }, { status: 404 })
  const output = await calculate(calculator, await readJson(request))
  return Response.json(output, { status: isCalculatorError(output) ? 422 : 200 })
})
