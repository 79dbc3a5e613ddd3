import { build } from 'esbuild'

/**
 * Bundles the command line into one file, dist/cyclon.cjs, and what its threads run into others; packages with binaries stay outside. It is required part by part: a command
 * loads only what it needs. Done after every install, and by `npm run build:cli`.
 */
const about = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'cjs',
  external: ['sharp', '@napi-rs/canvas', 'three', 'three/*', '@gltf-transform/core', 'playwright-core', 'tinyglobby'],
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
  minify: true,
  define: { 'import.meta.dirname': '__dirname' },
}
await build({ ...about, entryPoints: ['src/cli/index.ts'], outfile: 'dist/cyclon.cjs' })
await build({ ...about, entryPoints: ['src/cli/hand.ts'], outfile: 'dist/hand.cjs' })
await build({ ...about, entryPoints: ['src/cli/job.ts'], outfile: 'dist/job.cjs' })
// What draws models in an installed browser.
await build({
  ...about,
  platform: 'browser',
  target: 'chrome120',
  format: 'iife',
  external: [],
  entryPoints: ['src/cli/page.ts'],
  outfile: 'dist/page.js',
})
