import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { readBody, route } from '@/server/respond'
import { moveStock, stock } from '@/store/stock'

export const GET = route(async () => stock(store()))

/** Writes a row into the van's book, and answers what is in the van then. */
export const POST = route(async (request) => {
  const { at, by, ...move } = await readBody(request, requests.stock)
  moveStock(store(), { ...move, ...(await hand(at, by)) })
  return stock(store())
})
