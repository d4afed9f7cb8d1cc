import { readdirSync, readFileSync } from 'node:fs'

const folder = 'tests/jobs/'
/** The whole jobs that are files to be read; those that are there to be refused are left out. `read` throws of one that it refuses. */
export const wholeJobs = (read: (json: unknown) => unknown): readonly string[] =>
  readdirSync(folder).filter((f) => {
    if (!f.endsWith('.json') || f === 'expect.json') return false
    try {
      read(JSON.parse(readFileSync(folder + f, 'utf8')))
      return true
    } catch {
      return false
    }
  })
