import { reactRouter } from '@react-router/dev/vite'
import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  worker: { format: 'es' },
  resolve: { tsconfigPaths: true },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 4000 },
  optimizeDeps: { entries: ['app/**/*.{ts,tsx}', '!app/offline/service-worker.ts'] },
})
