import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    projects: [
      { extends: true, test: { name: 'core', include: ['core/src/**/*.test.ts'], environment: 'node' } },
    ],
  },
})
