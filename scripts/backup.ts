import path from 'node:path'
import { backUp, BackupError, restoreBackup } from '../src/store/backup'
import { verifyArchive } from '../src/store/verify'

/* npm run backup -- FILE, npm run restore -- FILE FOLDER, npm run verify -- ARCHIVE [HEAD].
   The data folder is SYNTHEMA_DATA, or `data`. */

const [what, file, folder] = process.argv.slice(2)
const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`
const size = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)

async function run(): Promise<void> {
  if (what === 'backup' && file && !folder) {
    const made = await backUp(path.resolve(process.env.SYNTHEMA_DATA ?? 'data'), file)
    console.log(
      `${file}: ${counted(made.jobs, 'job')} and ${counted(made.photographs, 'photograph')}, ${size(made.bytes)}, read back and right.`,
    )
    if (made.missing.length)
      console.log(`${counted(made.missing.length, 'photograph')} named in the database had no file, or a damaged one.`)
  } else if (what === 'restore' && file && folder) {
    const list = await restoreBackup(file, folder)
    const photographs = list.files.length - 1
    console.log(`${folder}: ${counted(list.jobs, 'job')} and ${counted(photographs, 'photograph')} as they stood on ${list.at}.`)
    console.log(`To serve it: SYNTHEMA_DATA=${folder} npm run demo`)
  } else if (what === 'verify' && file) {
    const typed = process.argv.slice(4).join(' ').trim()
    const { links, head, wrong } = await verifyArchive(file, typed === '' ? null : typed)
    if (wrong.length) {
      for (const w of wrong) console.error(w)
      process.exitCode = 1
    } else
      console.log(
        `${file}: ${counted(links, 'link')}, none broken. Head ${head || 'none: nothing is measured or signed'}` +
          `${typed === '' ? '. Give the head from the paper after the file to hold it against that.' : ', as typed.'}`,
      )
  } else {
    console.error('npm run -s verify -- FILE [HEAD]\nnpm run -s backup -- FILE\nnpm run -s restore -- FILE FOLDER')
    process.exitCode = 2
  }
}
try {
  await run()
} catch (e) {
  if (!(e instanceof BackupError) && !(e instanceof Error && 'code' in e)) throw e
  console.error(e.message)
  process.exitCode = 1
}
