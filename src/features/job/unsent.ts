import type { Edit } from '@/core/job/edits'

/** Edits that this device has and the server has not, with the revision they were made on. */
export interface Unsent {
  readonly revision: number
  readonly edits: Edit[]
  /** When whoever holds them last said so. */
  readonly at: number
}

/** A page that has said nothing for so long is gone, and another may send what it left. */
const GONE_MS = 15_000
const PREFIX = 'synthema.pending.'

/** This tab by name, over reloads; two tabs of one job keep apart what each has not sent. */
function tab(): string {
  const known = sessionStorage.getItem('synthema.tab')
  if (known) return known
  const made = Math.random().toString(36).slice(2)
  sessionStorage.setItem('synthema.tab', made)
  return made
}
const keyOf = (job: string): string => `${PREFIX}${job}.${tab()}`

/** Keeps what is on its way, said again while it waits; with nothing left it is forgotten. */
export function keepUnsent(job: string, revision: number, edits: readonly Edit[]): void {
  if (edits.length === 0) localStorage.removeItem(keyOf(job))
  else localStorage.setItem(keyOf(job), JSON.stringify({ revision, edits, at: Date.now() }))
}

/** What this tab, or one that is gone, left unsent of a job; null where there is nothing. */
export function takeUnsent(job: string): (Unsent & { readonly key: string }) | null {
  const mine = keyOf(job)
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(`${PREFIX}${job}.`))) {
    const kept = JSON.parse(localStorage.getItem(key)!) as Unsent
    if (kept.edits.length && (key === mine || Date.now() - kept.at > GONE_MS)) return { ...kept, key }
  }
  return null
}

/** Another tab’s once it is taken up here, where it is kept anew under this tab’s name. */
export function dropUnsent(key: string): void {
  if (!key.endsWith(`.${tab()}`)) localStorage.removeItem(key)
}
