import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react()],
  build: { outDir: 'dist', assetsDir: 'built', emptyOutDir: true, chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4600', changeOrigin: true } } },
})
