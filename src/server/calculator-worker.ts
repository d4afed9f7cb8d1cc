import { calculate, calculators } from '@/core/contract/calculators'

/** Runs a calculator off the thread that answers requests. */
export default ({ name, input }: { name: string; input: unknown }): Promise<unknown> => calculate(calculators[name]!, input)
