import 'server-only'

const LAST_ANSWERS_MS = 1500

/**
 * Told to stop, the server lets answers that are begun come to their end, and no more: a page that is open asks again and again, and would
 * keep it for ever. What was acknowledged is on the disk.
 */
export function endSoon(): void {
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => setTimeout(() => process.exit(0), LAST_ANSWERS_MS))
}
