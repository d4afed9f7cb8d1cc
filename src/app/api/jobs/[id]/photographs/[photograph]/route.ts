import { store } from '@/server/data'
import { route } from '@/server/respond'
import { photographFile } from '@/store/photographs'

export const GET = route<{ params: Promise<{ id: string; photograph: string }> }>(async (_, { params }) => {
  const { id, photograph } = await params
  return new Response(photographFile(store(), id, photograph), { headers: { 'content-type': 'image/jpeg' } })
})
