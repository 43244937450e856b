import tailwind from '@tailwindcss/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue(), tailwind()],
  build: { assetsInlineLimit: 0, target: 'es2023' },
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'] },
  server: { proxy: { '/api': 'http://127.0.0.1:4780', '/frame': 'http://127.0.0.1:4780' } },
})
