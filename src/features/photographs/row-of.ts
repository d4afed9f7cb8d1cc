import type { SeenPhotograph } from './use-photographs'

/** What a row says of a photograph that was taken before. */
export const rowOf = ({ photograph, of, words, out, moment }: SeenPhotograph) => ({ photograph, of, words, out, moment })
