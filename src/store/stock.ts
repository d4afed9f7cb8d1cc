import { asc, eq } from 'drizzle-orm'
import { refused, type StockItem, type StockMove, stockOf } from '@/core/workday/stock'
import { EditError } from '../core/job/part'
import { AnotherActError } from './jobs'
import type { Store } from './open'
import { stockMoves } from './schema'

const bare = ({ seq: _, ...move }: typeof stockMoves.$inferSelect): StockMove => move

/** What is in the van. */
export const stock = (store: Store): readonly StockItem[] =>
  stockOf(store.select().from(stockMoves).orderBy(asc(stockMoves.seq)).all().map(bare))

const told = ({ at: _, by: __, ...move }: StockMove): string =>
  JSON.stringify(Object.entries(move).toSorted(([a], [b]) => a.localeCompare(b)))

/**
 * Writes a row into the van's book; the same one sent again is stored once. Of two that take the last of something one is written.
 * @throws EditError where it takes out what is not there, AnotherActError where its name is another's
 */
export function moveStock(store: Store, move: StockMove): void {
  store.transaction(
    () => {
      const known = store.select().from(stockMoves).where(eq(stockMoves.id, move.id)).get()
      if (known) {
        if (told(bare(known)) !== told(move)) throw new AnotherActError()
        return
      }
      const moves = store.select().from(stockMoves).where(eq(stockMoves.item, move.item)).orderBy(asc(stockMoves.seq)).all()
      const why = refused(stockOf(moves.map(bare)), move)
      if (why !== null) throw new EditError('count', why)
      store.insert(stockMoves).values(move).run()
    },
    { behavior: 'immediate' },
  )
}
