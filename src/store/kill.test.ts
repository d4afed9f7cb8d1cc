import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { buildSync } from 'esbuild'
import { describe, expect, it } from 'vitest'
import { historyOf, loadJob } from './jobs'
import { openStore } from './open'

const TIMES = 20

/** Starts the writer, lets it acknowledge some edits, kills it at no particular moment; the last revision it was told. */
function writeAndKill(writer: string, folder: string, afterMs: number): Promise<number> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [writer, folder], { stdio: ['ignore', 'pipe', 'pipe'] })
    let out = ''
    let complaints = ''
    let armed = false
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString()
      if (armed) return
      armed = true
      setTimeout(() => child.kill('SIGKILL'), afterMs)
    })
    child.stderr.on('data', (chunk: Buffer) => (complaints += chunk.toString()))
    child.on('close', (_, signal) => {
      const acknowledged = out.slice(0, out.lastIndexOf('\n')).split('\n').at(-1)
      if (signal === 'SIGKILL' && acknowledged) resolve(Number(acknowledged))
      else reject(new Error(`the writer ended by itself: ${complaints}`))
    })
  })
}

describe('kill -9', () => {
  it(`loses no acknowledged edit, ${TIMES} times over`, async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'synthema-kill-'))
    // One file, so that each of the writers starts in no time; beside node_modules, which it asks for nothing but the driver.
    const writer = path.resolve('node_modules/.cache', `writer-${process.pid}.mjs`)
    buildSync({
      entryPoints: ['tests/support/writer.mts'],
      outfile: writer,
      bundle: true,
      platform: 'node',
      format: 'esm',
      external: ['better-sqlite3'],
    })
    for (let i = 0; i < TIMES; i++) {
      const acknowledged = await writeAndKill(writer, folder, (i * 7) % 40)
      const store = openStore(folder)
      const { revision, job } = loadJob(store, 'j')
      // The one in flight may have landed too; nothing acknowledged may be missing, and state and history agree.
      expect(revision).toBeGreaterThanOrEqual(acknowledged)
      expect(job.circuits[0]!.load.amount).toBe(revision - 1)
      expect(historyOf(store, 'j', 1)[0]!.revision).toBe(revision)
      expect(store.$client.pragma('integrity_check', { simple: true })).toBe('ok')
      store.$client.close()
    }
    rmSync(folder, { recursive: true })
    rmSync(writer)
  })
})
