/** Starts the application with the sample folio in it; installs and builds first where that is needed. */
import { spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { ensureBuild, ensurePackages, root } from './ensure.mjs'

ensurePackages()
ensureBuild()

/** The wanted port, or a free one where it is taken. */
function portFrom(wanted) {
  return new Promise(resolve => {
    const server = createServer()
    server.once('error', () => resolve(portFrom(0)))
    server.listen(wanted, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })
}

const port = await portFrom(Number(process.env.PORT) || 4173)
const child = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
  cwd: root,
  stdio: ['inherit', 'pipe', 'inherit'],
  env: { ...process.env, PORT: String(port), HOST: '127.0.0.1', NUXT_PUBLIC_DEMO: 'true' },
})
// The server says where it listens in words of its own; one address is enough.
child.stdout.on('data', said => {
  if (!/^Listening on /.test(String(said))) process.stdout.write(said)
})
child.on('exit', code => process.exit(code ?? 0))
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
for (let i = 0; i < 100; i++) {
  if (
    await fetch(`http://127.0.0.1:${port}/`).then(
      r => r.ok,
      () => false,
    )
  )
    break
  await new Promise(r => setTimeout(r, 100))
}
console.log(`\nOrthograph is running: http://localhost:${port}/\nThe sample folio is Balloon Day. Control-C stops it.`)
