import { bigJob } from '../../scripts/big-job'
import { writeJobFile } from '../../src/core/job/file'

/** The Job file of a job of that many circuits. */
export const bigFile = (circuits: number, title: string): ReturnType<typeof writeJobFile> =>
  writeJobFile({ ...bigJob(circuits), title }, [])
