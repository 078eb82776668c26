import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

const server = process.env['YODEL_DEV_SERVER'] ?? 'http://127.0.0.1:4750'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['development', 'module', 'browser', 'import', 'default'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 1700 },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': { target: server } } },
})
