import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    projects: [
      {
        extends: true,
        test: { name: 'core', include: ['core/src/**/*.test.ts'], environment: 'node' },
      },
      {
        extends: true,
        test: { name: 'web', include: ['web/test/**/*.test.ts'], environment: 'happy-dom' },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          environment: 'node',
          globalSetup: ['server/test/setup.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'scripts',
          include: ['scripts/test/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      {
        extends: true,
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
    ],
  },
})
