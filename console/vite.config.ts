import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 700 },
  test: { environment: 'jsdom' },
})
