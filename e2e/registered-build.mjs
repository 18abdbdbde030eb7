// Builds interface and server as they are for users, and what registered.ts registers besides in each of their threads:
// node registered-build.mjs FOLDER
import { mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { build } from 'vite'
import { bundle, root, serverParts } from '../scripts/setup.mjs'

const folder = process.argv[2]
const register = join(root, 'e2e/registered.ts')
const entries = /\/web\/src\/(main\.tsx|worker\/(bench|chunks|log)\.worker\.ts)$/
const registers = {
  name: 'registers',
  transform: (code, id) => (entries.test(id.split('?')[0]) ? `import ${JSON.stringify(register)}\n${code}` : null),
}

rmSync(folder, { recursive: true, force: true })
mkdirSync(join(folder, 'packages/server/dist'), { recursive: true })
symlinkSync(join(root, 'packages/server/demo'), join(folder, 'packages/server/demo'))
await build({
  root: join(root, 'packages/web'),
  logLevel: 'error',
  plugins: [registers],
  worker: { format: 'es', plugins: () => [registers] },
  build: { outDir: join(folder, 'packages/web/dist'), minify: false, chunkSizeWarningLimit: 9000 },
})
for (const [source, result] of Object.entries(serverParts)) {
  const entry = join(folder, `${result.replace(/^.*\//, '')}.ts`)
  writeFileSync(entry, `import ${JSON.stringify(register)}\nimport ${JSON.stringify(join(root, source))}\n`)
  bundle(entry, join(folder, result))
}
