import { createReadStream } from 'node:fs'
import path from 'node:path'
import { Readable } from 'node:stream'
import { backupFolder, backupState, backUpNow, keptBackups } from '@/server/backups'
import { route } from '@/server/respond'

/** How old the newest backup is; with `file`, that backup itself. */
export const GET = route((request) => {
  const name = new URL(request.url).searchParams.get('file')
  if (name === null) return backupState()
  const kept = keptBackups().find((k) => k.name === name)
  if (!kept) return Response.json({ error: { path: 'file', message: 'There is no backup of this name.' } }, { status: 404 })
  const stream = createReadStream(/* turbopackIgnore: true */ path.join(backupFolder(), kept.name))
  return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
    headers: {
      'content-type': 'application/zip',
      'content-length': String(kept.bytes),
      'content-disposition': `attachment; filename="${kept.name}"`,
      'cache-control': 'no-store',
    },
  })
})

/** Makes a backup now. */
export const POST = route(async () => {
  await backUpNow()
  return backupState()
})
