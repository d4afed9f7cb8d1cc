import { stockMoveSchema } from '@/core/workday/stock'
import { doneAt, doneBy, hand, store } from '@/server/data'
import { readBody, route } from '@/server/respond'
import { moveStock, stock } from '@/store/stock'

const body = stockMoveSchema.omit({ at: true, by: true }).extend({ at: doneAt.optional(), by: doneBy.optional() })

export const GET = route(async () => stock(store()))

/** Writes a row into the van's book, and answers what is in the van then. */
export const POST = route(async (request) => {
  const { at, by, ...move } = await readBody(request, body)
  moveStock(store(), { ...move, ...(await hand(at, by)) })
  return stock(store())
})
