import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'
import { offline } from './offline.plugin.js'

export default defineConfig({
  plugins: [react(), offline()],
  worker: { format: 'es' },
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': 'http://127.0.0.1:8470' } },
  // the time is for a machine that does something else beside it
  test: { include: ['src/**/*.test.{ts,tsx}'], testTimeout: 20_000, environmentOptions: { happyDOM: { url: 'http://localhost/' } } },
})
