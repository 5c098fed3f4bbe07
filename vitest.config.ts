import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'
import { LongestFirst } from './scripts/checks/longestFirst.ts'

export default defineConfig({
  plugins: [vue()],
  test: {
    // Files of one place share their modules, which are read once (`isolate: false`): none may leave anything behind in them.
    // A limit that only a test that hangs reaches, on however busy a machine: no test judges speed.
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Only what takes long by itself is named in the list of files.
    slowTestThreshold: 20_000,
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          include: ['core/src/**/*.test.ts'],
          environment: 'node',
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: 'web',
          include: ['web/test/**/*.test.ts'],
          environment: 'happy-dom',
          setupFiles: ['web/test/setup.ts'],
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['server/test/**/*.test.ts'],
          environment: 'node',
          globalSetup: ['server/test/setup.ts'],
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: 'scripts',
          include: ['scripts/test/**/*.test.ts'],
          environment: 'node',
        },
      },
      {
        extends: true,
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          setupFiles: ['e2e/pictures.ts'],
          environment: 'node',
        },
      },
    ],
  },
})
