import { type ChildProcess, spawn } from 'node:child_process'

const running = new Set<ChildProcess>()
process.on('exit', () => {
  for (const { pid } of running) if (pid) process.kill(-pid, 'SIGKILL')
})
export const wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** The built application over a data folder, as a program of its own. */
export interface BuiltServer {
  readonly base: string
  readonly pid: number
  /** Ends it as a dead battery would. */
  readonly kill: () => Promise<void>
}

/** What a server is started with besides. */
interface Started {
  readonly env?: Readonly<Record<string, string>>
  /** The largest file the system lets it write, in KiB: a disk that takes no more. */
  readonly largestKiB?: number
}

/** Starts the built application and waits until it answers. */
export async function startBuilt(folder: string, port: number, { env = {}, largestKiB }: Started = {}): Promise<BuiltServer> {
  const base = `http://127.0.0.1:${port}`
  const limit = largestKiB === undefined ? '' : `ulimit -f ${largestKiB}; `
  const command = `${limit}exec node_modules/.bin/next start -H 127.0.0.1 -p ${port} --keepAliveTimeout 75000`
  const child = spawn('bash', ['-c', command], {
    env: { ...process.env, ...env, SYNTHEMA_DATA: folder, NEXT_TELEMETRY_DISABLED: '1' },
    detached: true,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  running.add(child)
  const ended = new Promise<void>((resolve) => child.once('close', () => resolve()))
  const up = () =>
    fetch(`${base}/icon.svg`).then(
      (r) => r.ok,
      () => false,
    )
  while (!(await up())) await wait(50)
  return {
    base,
    pid: child.pid!,
    kill: async () => {
      running.delete(child)
      process.kill(-child.pid!, 'SIGKILL')
      await ended
    },
  }
}
