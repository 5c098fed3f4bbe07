import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [vue()],
  resolve: {
    // Nothing of ours shows the library's ripple, which every button and option would set up.
    alias: [
      {
        find: /^primevue\/ripple$/,
        replacement: fileURLToPath(new URL('src/theme/stillness.ts', import.meta.url)),
      },
    ],
  },
  html: { cspNonce: '__CSP_NONCE__' },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    target: 'es2022',
    chunkSizeWarningLimit: 600,
  },
})
