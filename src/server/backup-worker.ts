import { backUp, BackupError } from '@/store/backup'

/** Makes a backup off the thread that answers requests. What it refuses is passed on as text: an error loses its kind on the way. */
export default async function make({ folder, file }: { folder: string; file: string }) {
  try {
    return { made: await backUp(folder, file) }
  } catch (e) {
    if (e instanceof BackupError) return { refused: e.message }
    throw e
  }
}
