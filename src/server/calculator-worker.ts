import { calculate, calculators, isCalculatorError } from '@/core/contract/calculators'

/** Inputs at once of a calculator that takes seconds for one. */
const MOST_AT_ONCE = 50

/** Answers a calculator's question as it was sent, off the thread that answers requests: reading what is long takes long too. */
export default async function answer({ name, text }: { name: string; text: string }): Promise<{ status: number; body: string }> {
  const said = (status: number, output: unknown) => ({ status, body: JSON.stringify(output) })
  const calculator = calculators[name]!
  let input: unknown
  try {
    input = JSON.parse(text)
  } catch (e) {
    return said(400, { error: { path: '', message: `This is not JSON: ${e instanceof Error ? e.message : String(e)}` } })
  }
  if (calculator.slow && Array.isArray(input) && input.length > MOST_AT_ONCE)
    return said(422, { error: { path: '', message: `At most ${MOST_AT_ONCE} inputs at once.` } })
  const output = await calculate(calculator, input)
  return said(isCalculatorError(output) ? 422 : 200, output)
}
