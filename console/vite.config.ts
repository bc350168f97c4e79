import VueI18n from '@intlify/unplugin-vue-i18n/vite'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

const at = (path: string) => new URL(path, import.meta.url).pathname

export default defineConfig({
  plugins: [
    vue(),
    // Messages become functions when we build: the page needs no compiler and no eval.
    VueI18n({ include: [at('./src/words/*.json')], strictMessage: false, fullInstall: false }),
  ],
  // What is for developers' browser extensions stays out of the build.
  define: {
    __VUE_PROD_DEVTOOLS__: 'false',
    __INTLIFY_PROD_DEVTOOLS__: 'false',
  },
  // Help pages and their pictures are those of docs/.
  server: { fs: { allow: [at('..')] } },
  resolve: { alias: { '@': at('./src') } },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    manifest: true,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
  },
  // One page for all files of a worker: making one for each took most of the time.
  test: { environment: 'jsdom', isolate: false, setupFiles: ['./src/words/speakEnglish.ts'] },
})
