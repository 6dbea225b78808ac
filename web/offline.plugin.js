import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, constants } from 'node:zlib'
import { gzip } from 'libdeflate'

// counted up when the policies of the server change: a kept page keeps its old headers
const policies = 1

/**
 * What the application needs without a connection. The core is kept compressed, as it is sent; the worker that keeps the page's files is
 * given their names, those that were really written, and a mark that changes with any of them.
 */
export function offline() {
  return {
    name: 'hodos-offline',
    apply: 'build',
    writeBundle(options) {
      const dist = options.dir ?? 'dist'
      const assets = join(dist, 'assets')
      const names = readdirSync(assets).sort()
      const kept = ['/', '/mark.svg', '/hodos.webmanifest', ...names.map((n) => `/assets/${n}`)]
      for (const n of names.filter((x) => x.endsWith('.wasm'))) {
        const raw = readFileSync(join(assets, n))
        writeFileSync(
          join(assets, `${n}.br`),
          brotliCompressSync(raw, { params: { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: raw.length } }),
        )
        // the deflate that ships with Node is made for speed, and a twentieth larger
        writeFileSync(join(assets, `${n}.gz`), gzip(raw, 12))
        rmSync(join(assets, n))
      }
      const mark = createHash('sha256')
        .update(`${String(policies)} ${kept.join(' ')} ${readFileSync(join(dist, 'index.html'), 'utf8')}`)
        .digest('hex')
      const worker = readFileSync('sw.js', 'utf8').replace('__MARK__', mark.slice(0, 16)).replace('__FILES__', JSON.stringify(kept))
      writeFileSync(join(dist, 'sw.js'), worker)
    },
  }
}
