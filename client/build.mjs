// Bundles the modules into files named by what is in them, so that a page and its scripts are always of one version, and says which is which.
// node client/build.mjs [folder]
import { build } from 'esbuild'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const here = fileURLToPath(new URL('.', import.meta.url))
const out = process.argv[2] || join(here, '../internal/web/shell/assets/client')
const pages = [
  'page',
  'plan',
  'season',
  'marks',
  'stairs',
  'diagram',
  'draw',
  'courtside',
  'bigscreen',
  'mirror',
  'home',
  'testpad',
]

const common = {
  bundle: true,
  minify: true,
  format: 'esm',
  target: 'es2022',
  absWorkingDir: here,
  legalComments: 'none',
  outdir: out,
  write: false,
}
const modules = await build({
  ...common,
  entryPoints: pages.map((p) => p + '.js'),
  splitting: true,
  entryNames: '[name]-[hash]',
  chunkNames: 'shared-[hash]',
  metafile: true,
})
// The service worker stays at one address: the browser itself asks whether it is new.
const worker = await build({
  ...common,
  format: 'iife',
  entryPoints: ['sw.js'],
  define: { 'process.env.NODE_ENV': '"production"' },
})
const names = {}
for (const [file, o] of Object.entries(modules.metafile.outputs))
  if (o.entryPoint) names[basename(o.entryPoint)] = basename(file)

const files = new Map([['names.json', JSON.stringify(names, null, 2) + '\n']])
for (const f of [...modules.outputFiles, ...worker.outputFiles]) files.set(basename(f.path), f.text)
mkdirSync(out, { recursive: true })
for (const old of readdirSync(out)) if (!files.has(old)) rmSync(join(out, old))
for (const [name, text] of files) {
  const path = join(out, name)
  if (!existsSync(path) || readFileSync(path, 'utf8') !== text) writeFileSync(path, text) // what is as it was stays untouched
}
