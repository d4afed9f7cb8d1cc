/** Hears from long work how far it is, from 0 to 1. */
export type Told = (part: number) => void

/** A question to a worker, numbered; every answer, and how far it is, names the question it belongs to. */
export interface Asked<Q> {
  readonly ask: number
  readonly question: Q
}
export type Heard<A> = { readonly ask: number } & ({ readonly answer: A } | { readonly part: number })
