import { build } from 'esbuild'

/**
 * Bundles the command line into one file, dist/cyclon.cjs; packages with binaries stay outside. It is required part by part: a command
 * loads only what it needs. Done after every install, and by `npm run build:cli`.
 */
await build({
  entryPoints: ['src/cli/index.ts'],
  outfile: 'dist/cyclon.cjs',
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'cjs',
  external: ['sharp', '@napi-rs/canvas'],
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
  minify: true,
})
