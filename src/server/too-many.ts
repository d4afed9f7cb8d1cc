import 'server-only'

/** More of what takes long is waiting than will be done soon. */
export class TooManyError extends Error {
  constructor(what: string) {
    super(`${what} just now. Ask again in a moment.`)
    this.name = 'TooManyError'
  }
}
