import { sql } from 'drizzle-orm'
import type { Store } from './open'

/** A query that is put together once for each database: again at each asking that took longer than the answer. */
export function prepared<Query>(make: (store: Store) => Query): (store: Store) => Query {
  const known = new WeakMap<object, Query>()
  return (store) => {
    let query = known.get(store.$client)
    if (!query) known.set(store.$client, (query = make(store)))
    return query
  }
}

/** What a prepared query is asked with, by its name. */
export const asked = (name: string) => sql.placeholder(name)
