import { store } from '@/server/data'
import { download, type IdContext, route } from '@/server/respond'
import { olderFile } from '@/store/bring-up'
import { NotFoundError } from '@/store/jobs'

/** A job of an older version that could not be brought up, as it is. */
export const GET = route<IdContext>(async (_, { params }) => {
  const { id } = await params
  const file = olderFile(store().$client, id)
  if (file === null) throw new NotFoundError()
  return download(file, 'application/json', `${id}-as-it-was.json`)
})
