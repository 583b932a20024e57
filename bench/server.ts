import { spawn } from 'node:child_process'
import { randomFillSync } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { Agent, get } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { seededRandom } from '../core/ink'
import { freePort, startApp } from '../tests/support/browser'
import { filesOnClassSite } from '../tests/support/staticSite'

const MB = 1024 ** 2
const FILE_BYTES = 100 * MB
const STUDENTS = 200
const ROUND_MS = 3000

/** A static server in ten lines, to measure beside: it streams the range that is asked for, and knows nothing else. */
const TEN_LINES = `
const { createServer } = require('node:http'), { createReadStream, statSync } = require('node:fs')
const [file, port] = process.argv.slice(1), { size } = statSync(file)
createServer((request, response) => {
  const hit = /^bytes=(\\d+)-(\\d*)$/.exec(request.headers.range || '')
  const start = hit ? Number(hit[1]) : 0, end = hit && hit[2] ? Number(hit[2]) : size - 1
  response.writeHead(hit ? 206 : 200, { 'Content-Type': 'video/mp4', 'Content-Length': end - start + 1, 'Accept-Ranges': 'bytes', 'Content-Range': 'bytes ' + start + '-' + end + '/' + size })
  createReadStream(file, { start, end }).pipe(response)
}).listen(Number(port), '127.0.0.1')
`

/** Resident memory of a process, MB; `peak` the most it had. */
function memoryOf(pid: number): { now: number; peak: number } {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8')
  const of = (name: string) => Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1] ?? 0) / 1024
  return { now: of('VmRSS'), peak: of('VmHWM') }
}

/**
 * Students who read ranges of 1 MB at random places, one after another, for a while.
 * @returns bytes, and how long each range took, ms
 */
async function students(url: string, seed: number): Promise<{ bytes: number; took: number[] }> {
  const agent = new Agent({ keepAlive: true, maxSockets: STUDENTS })
  const took: number[] = []
  let bytes = 0
  const end = performance.now() + ROUND_MS
  await Promise.all(
    Array.from({ length: STUDENTS }, async (_, i) => {
      const random = seededRandom(seed * 1000 + i)
      while (performance.now() < end) {
        const from = Math.floor(random() * (FILE_BYTES - MB))
        const began = performance.now()
        await new Promise<void>((resolve, reject) => {
          get(url, { agent, headers: { range: `bytes=${from}-${from + MB - 1}` } }, response => {
            if (response.statusCode !== 206) reject(new Error(`answered ${response.statusCode}`))
            response.on('data', (d: Buffer) => {
              bytes += d.length
            })
            response.on('end', resolve)
            response.on('error', reject)
          }).on('error', reject)
        })
        took.push(performance.now() - began)
      }
    }),
  )
  agent.destroy()
  return { bytes, took }
}

/**
 * Publishes a file of 100 MB and lets 200 students read it, beside a static server that does nothing else; then while it
 * is updated.
 * @throws Error when a request fails
 */
export async function benchServer(rounds = 5) {
  const folder = mkdtempSync(join(tmpdir(), 'orthograph-bench-'))
  const file = join(folder, 'video.mp4')
  const video = randomFillSync(Buffer.alloc(FILE_BYTES))
  writeFileSync(file, video)
  const app = await startApp()
  const port = await freePort()
  const plain = spawn(process.execPath, ['-e', TEN_LINES, file, String(port)], { stdio: 'inherit' })
  try {
    const before = memoryOf(app.pid)
    const page = Buffer.from('<h1>Bench</h1>')
    const made = await filesOnClassSite(
      app,
      new Map([
        ['index.html', page],
        ['video.mp4', video],
      ]),
    )
    const { link } = made
    const uploaded = memoryOf(app.pid)
    const urls = { own: `${link}video.mp4`, plain: `http://127.0.0.1:${port}/` }
    const shares: number[] = [],
      slowest: number[] = []
    for (let i = 0; i < rounds; i++) {
      const own = await students(urls.own, i),
        other = await students(urls.plain, i)
      shares.push(own.bytes / other.bytes)
      slowest.push(Math.max(...own.took))
    }
    // A range that fails throws: they read on, by its path, in a video that newer versions do not have any more.
    let last = made
    const reading = students(urls.own, rounds)
    let updates = 0
    for (let at = 0; at < ROUND_MS - 500; updates++) {
      const began = performance.now()
      const changed = Buffer.from(`<h1>Bench ${updates}</h1>`)
      last = await filesOnClassSite(app, new Map([['index.html', changed]]), last)
      await new Promise(r => setTimeout(r, 300))
      at += performance.now() - began
    }
    const whileUpdated = (await reading).took.length
    const after = memoryOf(app.pid)
    const growth = after.peak - uploaded.now
    return { shares, slowest, uploadGrowth: uploaded.peak - before.now, growth, updates, whileUpdated }
  } finally {
    plain.kill()
    app.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
