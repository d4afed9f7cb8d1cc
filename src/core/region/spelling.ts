import type { RegionId } from './types'

/** Words shared by all worlds that the North American trade says or spells otherwise; the longer ones first. */
const american: readonly (readonly [said: RegExp, instead: string])[] = [
  [/luminium/g, 'luminum'],
  [/olour/g, 'olor'],
  [/\bmeans of earthing\b/g, 'means of grounding'],
  [/\ban earth\b/g, 'a ground'],
  [/\bAn earth\b/g, 'A ground'],
  [/\bearth\b/g, 'ground'],
  [/\bEarth\b/g, 'Ground'],
  [/\b[Rr]esidual current (device|protection)\b/g, 'GFCI $1'],
  [/\bLine and neutral\b/g, 'Hot and neutral'],
  [/\bline and neutral\b/g, 'hot and neutral'],
  [/\bconsumer unit\b/g, 'panel'],
  [/\bCircuit chart\b/g, 'Circuit directory'],
  [/\bQuotation\b/g, 'Quote'],
  [/\bquotation\b/g, 'quote'],
]

/** A sentence that holds in every world, in the words of one. */
export const inRegion = (region: RegionId, words: string): string =>
  region === 'north-america' ? american.reduce((said, [from, to]) => said.replace(from, to), words) : words
