import { branchesFor } from './network'
import type { NetworkInput } from './types'

/** Of a closed pole in a netlist, which knows no joint of nothing. */
const POLE_OHM = 1e-6
/** Holds a floating island to the reference, so that it can be solved elsewhere. */
const LEAK_OHM = 1e12

/**
 * The wiring as a SPICE netlist: resistors, inductors and sources as open text, one line a branch, with what each stands for as a comment.
 * Potentials are of the peak of `.AC`, here set to the root mean square, so that magnitudes are volts and amperes as a meter shows them.
 */
export function spiceOf(input: NetworkInput, title: string): string {
  const { supply } = input
  const numbers = new Map<string, string>()
  const node = (name: string): string => {
    if (!numbers.has(name)) numbers.set(name, `n${numbers.size + 1}`)
    return numbers.get(name)!
  }
  const ohms = (x: number): string => x.toPrecision(9)
  const w = 2 * Math.PI * supply.frequencyHz
  const lines: string[] = []
  let n = 0
  const branch = (a: string, b: string, re: number, im: number, what: string) => {
    const id = ++n
    const r = ohms(re === 0 && im === 0 ? POLE_OHM : Math.max(re, POLE_OHM))
    if (im === 0) return void lines.push(`R${id} ${a} ${b} ${r} ; ${what}`)
    lines.push(`R${id} ${a} m${id} ${r} ; ${what}`)
    lines.push(im > 0 ? `L${id} m${id} ${b} ${ohms(im / w)}` : `C${id} m${id} ${b} ${ohms(1 / (w * -im))}`)
  }
  const from =
    supply.system === 'split-phase'
      ? ([
          ['L1', 0],
          ['L2', 180],
        ] as const)
      : ([['L', 0]] as const)
  for (const [name, phase] of from) {
    lines.push(`V${name} s${name} 0 AC ${supply.volts} ${phase}`)
    branch(`s${name}`, node(name), supply.sourceOhm, 0, `source to ${name}`)
  }
  branch('0', node('N'), supply.sourceOhm, 0, 'neutral of the source')
  if (supply.earthing === 'tn') branch(node('N'), node('PE'), 0, 0, 'neutral joined to the protective conductor')
  else branch('0', node('PE'), supply.electrodeOhm ?? 0, 0, 'electrode')
  const open = new Set(input.state?.open ?? [])
  for (const [i, e] of input.elements.entries()) {
    if (open.has(e.id)) {
      lines.push(`* ${e.id}: open`)
      continue
    }
    for (const b of branchesFor(e, `elements.${i}`)) branch(node(b.a), node(b.b), b.ohms.re, b.ohms.im, e.id)
  }
  for (const name of numbers.values()) lines.push(`Rg${name} ${name} 0 ${LEAK_OHM.toExponential(0)}`)
  const named = [...numbers].map(([name, id]) => `* ${id} = ${name}`)
  return [
    `* ${title.replaceAll(/[^\x20-\x7e]/g, '?')}`,
    ...named,
    ...lines,
    `.AC LIN 1 ${supply.frequencyHz} ${supply.frequencyHz}`,
    '.PRINT AC V(*)',
    '.END',
    '',
  ].join('\n')
}
