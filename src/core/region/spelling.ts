import { once } from '../base/memory'
import type { RegionId } from './types'

/** Words shared by all worlds that the North American trade says or spells otherwise; the longer ones first. */
const american: readonly (readonly [said: RegExp, instead: string])[] = [
  [/luminium/g, 'luminum'],
  [/olour/g, 'olor'],
  [/\bmeans of earthing\b/g, 'means of grounding'],
  [/\ban earth\b/g, 'a ground'],
  [/\bAn earth\b/g, 'A ground'],
  [/\b([Aa])n earthed\b/g, '$1 grounded'],
  [/\bearthed\b/g, 'grounded'],
  [/\bearth\b/g, 'ground'],
  [/\bearths\b/g, 'grounds'],
  [/\bEarth\b/g, 'Ground'],
  [/\b[Rr]esidual current (device|protection)\b/g, 'GFCI $1'],
  [/\bLine and neutral\b/g, 'Hot and neutral'],
  [/\bline and neutral\b/g, 'hot and neutral'],
  [/\bconsumer unit\b/g, 'panel'],
  [/\bWays (?=of (the|this|its|a) (board|panel)\b)/g, 'Spaces '],
  [/\bways (?=of (the|this|its|a) (board|panel)\b)/g, 'spaces '],
  [/\bway (?=of (the|this|its|a) (board|panel)\b)/g, 'space '],
  [/(?<!connector, )\b(\d+|[Ff]ree|No|its|all other|other) ways\b(?! to| in)/g, '$1 spaces'],
  [/\bOpen a way and\b/g, 'Open a space and'],
  [/^way taken$/, 'space taken'],
  [/^Way$/, 'Space'],
  [/^Ways$/, 'Spaces'],
  [/\bthis way$/, 'this space'],
  [/\b(a|its) way(?=[.,:;]|$| has none)/g, '$1 space'],
  [/\b([Ss])ub-board/g, '$1ubpanel'],
  [/\bboard(s?)\b/g, 'panel$1'],
  [/\bBoard(s?)\b/g, 'Panel$1'],
  [/\bcircuit-breaker/g, 'breaker'],
  [/\bCircuit-breaker/g, 'Breaker'],
  [/\bCircuit chart\b/g, 'Circuit directory'],
  [/\bQuotation\b/g, 'Quote'],
  [/\bquotation\b/g, 'quote'],
]

/** A sentence that holds in every world, in the words of one. */
export const inRegion = (region: RegionId, words: string): string =>
  region === 'north-america' ? american.reduce((said, [from, to]) => said.replace(from, to), words) : words

/** A job, as far as it matters here: its world, and whatever people wrote in it. */
interface Written {
  readonly region: RegionId
  readonly supply: { readonly board: string }
}
const anyTerm = new RegExp(american.map(([from]) => from.source).join('|'))

/** Every text of a record that has a term of the trade in it and is longer than that term: a name, a note, what was found. */
function textsIn(part: unknown, into: Set<string>): void {
  if (typeof part === 'string') {
    if (part.includes(' ') && anyTerm.test(part)) into.add(part)
  } else if (typeof part === 'object' && part !== null) for (const inner of Object.values(part)) textsIn(inner, into)
}

/** What people wrote in a job and would be taken for words of the trade, the longest first. */
const writtenIn = once((job: Written): readonly string[] => {
  const all = new Set([job.supply.board].filter((n) => anyTerm.test(n)))
  textsIn(job, all)
  return [...all].toSorted((x, y) => y.length - x.length)
})

/** A sentence in the words of the world of a job; what people wrote in it stays as they wrote it. */
export function inJob(job: Written, words: string): string {
  const put = (text: string): string => {
    const kept = writtenIn(job).find((n) => text.includes(n))
    return kept === undefined ? inRegion(job.region, text) : text.split(kept).map(put).join(kept)
  }
  return job.region === 'north-america' ? put(words) : words
}
