import type { z } from 'zod'

/** An input that cannot be computed with. `path` is dotted with indexes, as `conductors.0.size`. */
export class InputError extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message)
    this.name = 'InputError'
  }
}

/** The dotted path and message of the first thing wrong; an unknown key is named itself. */
export function firstIssue(error: z.ZodError): { path: string; message: string } {
  const issue = error.issues[0]!
  const path = issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0]!] : issue.path
  return { path: path.join('.'), message: issue.message }
}
