import type { Edit } from '@/core/job/edits'
import type { Reading } from '@/core/job/reading'
import type { NewRow } from '@/core/verify/photograph'
import type { StockMove } from '@/core/workday/stock'

/** A row of a photograph as this device makes it, with the picture where it was just taken: a JPEG in base 64. */
export type SentPhotograph = NewRow & { readonly data?: string }

/**
 * One thing a hand did, by a name of its own: when, by whom, the revision it was done on, and acts of this device that it was done on top
 * of and that the server had not answered.
 */
export type Act = {
  readonly id: string
  readonly at: string
  readonly seen: number
  readonly by?: string
  readonly over?: readonly string[]
} & (
  | { readonly kind: 'edit'; readonly edit: Edit }
  | { readonly kind: 'reading'; readonly reading: Omit<Reading, 'at' | 'by'> }
  | { readonly kind: 'photograph'; readonly row: SentPhotograph }
  | { readonly kind: 'stock'; readonly move: Omit<StockMove, 'at' | 'by'> }
)
